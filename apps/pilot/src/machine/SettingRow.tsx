import { sourceMark } from './sourceMark';
import type { MachineModel } from '@yare/commissioning';
import { Fragment, useState, type ReactNode } from 'react';
import { storedValue, textOf, type Setting } from '@yare/books';
import { say } from '@yare/words/pages/frame';
import { editDraft } from '../data/edits';
import { Choices } from '../ui/entry';
import { openEntry, useEntryStore, type Entry } from '../ui/entryStore';
import { Finding, SheetRow } from '../ui/sheet';

/** The entry of one setting of the draft. */
export function settingEntry(model: MachineModel, setting: Setting, stage: string): Entry {
  const { tag } = model.machine;
  const now = model.draftOf(setting.code);
  return {
    id: `${tag} ${stage} ${setting.code}`,
    label: `${setting.name} ${setting.code}`,
    value: now.value,
    unit: setting.unit,
    decimals: setting.decimals,
    min: setting.min,
    max: setting.max,
    onSet: (value) => {
      if (value !== null && value !== now.value) editDraft(tag, { [setting.code]: { value, source: 'chosen' } }, { [setting.code]: now });
    },
  };
}

export interface SettingRowProps {
  model: MachineModel;
  setting: Setting;
  stage: string;
  label?: string;
  second?: string;
  children?: ReactNode;
}

/** A setting of the draft as a line of the sheet: source mark, figure, what differs from the drive in plum, its sentences under it. */
export function SettingRow({ model, setting, stage, label, second, children }: SettingRowProps) {
  const { tag } = model.machine;
  const [open, setOpen] = useState(false);
  const now = model.draftOf(setting.code);
  const entry = settingEntry(model, setting, stage);
  const inHand = useEntryStore((s) => s.id === entry.id);
  const inDrive = model.inDriveOf(setting.code)?.value;
  const stored = storedValue(setting, now.value);
  const changed = inDrive !== undefined && stored !== inDrive;
  const factory = model.drafted.factory(setting);
  const driveText = changed ? say.inDrive({ textOf: textOf(setting, inDrive) }) : say.factory({ textOf: textOf(setting, factory) });
  const contradiction = model.drafted.contradiction(setting);
  return (
    <Fragment>
      <SheetRow
        label={label ?? setting.name}
        second={[second, driveText].filter(Boolean).join(' · ')}
        mark={sourceMark[now.source]}
        changed={changed}
        inHand={inHand || open}
        testID={`setting-${setting.code}`}
        {...(setting.options
          ? { text: textOf(setting, now.value), onPress: () => setOpen(!open) }
          : { figure: textOf(setting, now.value), unit: setting.unit, onPress: () => openEntry(entry) })}
      />
      {open && setting.options && (
        <Choices
          options={setting.options}
          value={now.value}
          onChoose={(v) => {
            setOpen(false);
            if (v !== now.value) editDraft(tag, { [setting.code]: { value: v as number, source: 'chosen' } }, { [setting.code]: now });
          }}
        />
      )}
      {contradiction && <Finding severity="error" sentence={contradiction} />}
      {children}
    </Fragment>
  );
}
