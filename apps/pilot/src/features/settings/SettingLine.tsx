import { sourceMark } from '../../machine/sourceMark';
import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import { storedValue, textOf, type Setting } from '@yare/books';
import { say } from '@yare/words/pages/settings';
import { editDraft } from '../../data/edits';
import { useLiveValue } from '../../data/live';
import { Choices } from '../../ui/entry';
import { openEntry } from '../../ui/entryStore';
import { settingEntry } from '../../machine/SettingRow';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';
import { Finding, SheetRow } from '../../ui/sheet';
import { Body, LinkText, Second } from '../../ui/text';
import { when } from '../../ui/when';

interface Props {
  model: MachineModel;
  setting: Setting;
  open: boolean;
  onOpen: () => void;
}

/** A setting as a line; touched, it opens into its meaning, its range, where its value came from, and the ways to change it. */
export const SettingLine = drawnWhenChanged(function SettingLine({ model, setting: s, open, onOpen }: Props) {
  const now = model.draftOf(s.code);
  const inDrive = model.inDriveOf(s.code)?.value;
  const changed = s.access !== 'read' && inDrive !== undefined && storedValue(s, now.value) !== inDrive;
  const shown = s.access === 'read' ? (inDrive ?? now.value) : now.value;
  const quiet = [
    s.code,
    changed ? say.inDrive({ textOf: textOf(s, inDrive) }) : null,
    s.access === 'read' ? say.readOnly : s.access === 'stopped' ? say.onlyAtStandstill : null,
  ]
    .filter(Boolean)
    .join(' · ');
  return (
    <View>
      <SheetRow
        label={s.name}
        second={quiet}
        mark={s.access === 'read' ? undefined : sourceMark[now.source]}
        changed={changed}
        inHand={open}
        onPress={onOpen}
        testID={`line-${s.code}`}
        {...(s.options ? { text: textOf(s, shown) } : { figure: textOf(s, shown), unit: s.unit })}
      />
      {open && <Opened model={model} setting={s} />}
    </View>
  );
});

function Opened({ model, setting: s }: { model: MachineModel; setting: Setting }) {
  const { tag, region } = model.machine;
  const now = model.draftOf(s.code);
  const known = model.draft.values[s.code];
  const factory = model.drafted.factory(s);
  const unit = s.unit ? ` ${s.unit}` : '';
  const turning = useLiveValue(tag, (s) => s?.state === 'running' || s?.state === 'stopping');
  const contradiction = model.drafted.contradiction(s);
  const other = s.depends && model.drafted.at(s.depends.code);
  const stored = storedValue(s, now.value);
  const set = (value: number, source: 'chosen' | 'factory') => {
    if (value !== now.value || source !== now.source) editDraft(tag, { [s.code]: { value, source } }, { [s.code]: now });
  };
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2">
      <View paddingLeft={52} paddingRight={14} paddingVertical={10} gap={4}>
        <Body>{s.help}</Body>
        {!s.options && <Second>{say.rangeToStep({ textOf: textOf(s, s.min), textOf2: textOf(s, s.max), unit, step: s.step })}</Second>}
        <Second>
          {say.factory({
            textOf: textOf(s, factory),
            options: s.options ? '' : unit,
            factory50: s.factory50 !== s.factory60,
            region,
            textOf2: textOf(s, region === 50 ? s.factory60 : s.factory50),
            region2: region === 50 ? 60 : 50,
          })}
        </Second>
        {other && (
          <Second>
            {say.must} {s.depends?.must} {other.name.toLowerCase()} {other.code}.
          </Second>
        )}
        {s.access === 'read' && <Second>{say.readOnlyTheDriveCounts}</Second>}
        {s.access === 'stopped' && <Second>{turning ? say.theMotorTurnsTheDrive : say.theDriveTakesThisOnly}</Second>}
        {known && s.access !== 'read' && (
          <Second>
            {now.source}
            {known.value === now.value ? `, ${known.author}, ${known.at.length > 10 ? when(known.at) : known.at}` : say.justNowOnThisDevice}
          </Second>
        )}
        {s.access !== 'read' && stored !== now.value && <Second color="$plum">{say.theDriveWillStore({ textOf: textOf(s, stored), unit })}</Second>}
        {s.access !== 'read' && (
          <View flexDirection="row" gap={24}>
            {!s.options && (
              <Pressable
                role="button"
                testID={`change-${s.code}`}
                onPress={() => openEntry(settingEntry(model, s, 'settings'))}
                style={{ minHeight: 48, justifyContent: 'center' }}
              >
                <LinkText>{say.change}</LinkText>
              </Pressable>
            )}
            {now.value !== factory && (
              <Pressable role="button" onPress={() => set(factory, 'factory')} style={{ minHeight: 48, justifyContent: 'center' }}>
                <LinkText>{say.backToFactory}</LinkText>
              </Pressable>
            )}
          </View>
        )}
      </View>
      {s.options && s.access !== 'read' && <Choices options={s.options} value={now.value} onChoose={(v) => set(v as number, 'chosen')} />}
      {contradiction && <Finding severity="error" sentence={contradiction} />}
    </View>
  );
}
