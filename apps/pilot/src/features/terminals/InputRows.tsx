import { useState } from 'react';
import type { MachineModel, StripTerminal } from '@yare/commissioning';
import { InputJob } from '@yare/core';
import type { WiredInput, Wiring } from '@yare/contract';
import { wiredDevices } from '@yare/contract/wiredDevices';
import { say } from '@yare/words/pages/terminals';
import { editWiring } from '../../data/edits';
import { SettingRow } from '../../machine/SettingRow';
import { StageFindings } from '../../machine/StageFindings';
import { Choices } from '../../ui/entry';
import { Segments } from '../../ui/Segments';
import { SheetRow } from '../../ui/sheet';
import { KeptTextLine } from '../../ui/TextLine';

const findingsOf = (model: MachineModel, code: string) => model.findings.filter((f) => f.stage === 'terminals' && f.code === code);

/** What hangs at an input: its device, its mark on the panel, its state while nobody works it. */
function DeviceRow({ model, terminal, wiring }: { model: MachineModel; terminal: StripTerminal; wiring: Wiring }) {
  const [open, setOpen] = useState(false);
  const { tag } = model.machine;
  const { device } = terminal;
  if (!device || terminal.input === null) return null;
  const set = (change: Partial<WiredInput>) =>
    editWiring(tag, { inputs: { ...wiring.inputs, [terminal.id]: { ...device, ...change } } }, { inputs: wiring.inputs });
  const noted = wiring.inputs[terminal.id] !== undefined;
  return (
    <>
      <SheetRow
        label={device.label}
        second={say.atRest({ device: device.device, atRest: device.atRest })}
        text={noted ? say.noted : say.expected}
        mark={noted ? 'C' : 'W'}
        inHand={open}
        onPress={() => setOpen(!open)}
        testID={`device-${terminal.id}`}
      />
      {open && (
        <>
          <KeptTextLine
            label={say.markOfWhatHangsAt({ id: terminal.id })}
            caption={say.markOnThePanel}
            value={device.label}
            placeholder={say.sStart}
            onKeep={(label) => set({ label: label.slice(0, 40) })}
            testID={`label-${terminal.id}`}
          />
          <Choices
            options={wiredDevices.map((d) => ({ value: d, label: d.replace(/^./, (c) => c.toUpperCase()) }))}
            value={device.device}
            onChoose={(d) => set({ device: d as WiredInput['device'] })}
          />
          <Segments
            label={say.itsContactWhileNobodyWorks}
            options={[
              { value: 'open', text: say.openAtRest },
              { value: 'closed', text: say.closedAtRest },
            ]}
            value={device.atRest}
            onChoose={(atRest) => set({ atRest })}
          />
        </>
      )}
    </>
  );
}

/** Every digital input with its job, its job in local where it has one, and what hangs there. */
export function InputRows({ model, strip, wiring }: { model: MachineModel; strip: readonly StripTerminal[]; wiring: Wiring }) {
  const { drafted } = model;
  const local = drafted.jobs.includes(InputJob.local);
  return strip
    .filter((t) => t.kind === 'digital in')
    .map((t) => {
      const setting = t.code === null ? undefined : drafted.at(t.code);
      const own = setting && drafted.localOf(setting);
      if (!setting) return null;
      return (
        <SettingRow key={t.id} model={model} setting={setting} stage="terminals" label={t.id} second={setting.code}>
          {local && own && <SettingRow model={model} setting={own} stage="terminals" label={say.inLocal({ id: t.id })} second={own.code} />}
          <DeviceRow model={model} terminal={t} wiring={wiring} />
          <StageFindings model={model} findings={findingsOf(model, setting.code)} />
        </SettingRow>
      );
    });
}
