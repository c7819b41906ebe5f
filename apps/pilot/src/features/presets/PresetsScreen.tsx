import { useMemo, useState } from 'react';
import { View } from '@tamagui/core';
import { inputName, openSpeed, presetsStage, presetTable, speedUnits, type MachineModel, type PresetRow, type SpeedUnit } from '@yare/commissioning';
import type { SeenFacts } from '@yare/contract';
import { formatFigure, unbroken } from '@yare/core';
import { say } from '@yare/words/pages/presets';
import { useCommandNow } from '../../data/commandNow';
import { editDraft } from '../../data/edits';
import { useProofs, useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import { useWiring } from '../../data/wiring';
import { Switches } from '../../machine/Switches';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { Refusal } from '../../ui/Answer';
import type { Act } from '../../ui/bar';
import { EntryRow } from '../../ui/EntryRow';
import type { Entry } from '../../ui/entryStore';
import { Segments } from '../../ui/Segments';
import { Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { OwnUnit, ownUnitEntry } from './OwnUnit';
import { ProofShape } from '../../ui/shapes';
import { Second } from '../../ui/text';

const { sections = [] } = presetsStage;
/** A preset's speed in the unit it is spoken of in. */
function presetEntry(model: MachineModel, row: PresetRow, unit: SpeedUnit): Entry | null {
  const { setting } = row;
  if (!setting) return null;
  const { tag } = model.machine;
  const now = model.draftOf(setting.code);
  const inUnit = (value: number) => model.drafted.inRole(setting, value) * unit.perHertz;
  // no belt goes at what the setting could hold: the machine's own top speed is where it ends
  const top = model.drafted.roleValue('maximumFrequency') * unit.perHertz;
  return {
    id: `${tag} presets ${setting.code} ${unit.name}`,
    label: say.preset({ number: row.number }),
    value: Number(inUnit(now.value).toFixed(unit.decimals)),
    unit: unit.name,
    decimals: unit.decimals,
    min: Math.max(-top, inUnit(setting.min)),
    max: Math.min(top, inUnit(setting.max)),
    onSet: (typed) => {
      const value = typed === null ? null : model.drafted.valueFor(setting, typed / unit.perHertz);
      if (value !== null && value !== now.value) editDraft(tag, { [setting.code]: { value, source: 'chosen' } }, { [setting.code]: now });
    },
  };
}

/** What keeps the presets the server saw, Hz by preset, while the real switches were turned. */
function useKeep(model: MachineModel, rows: readonly PresetRow[], found: SeenFacts<'preset'>): { act: Act | null; error: Error | null } {
  const prove = useProve(model);
  const proofOf = useProofs(model);
  const fresh = rows.filter(
    (r) =>
      r.number > 0 && found[`preset ${r.number}`] !== undefined && proofOf('presets', say.preset2({ number: r.number })).standing.state !== 'passed',
  );
  if (fresh.length === 0) return { act: null, error: prove.error };
  const keep = async () => {
    for (const r of fresh)
      await prove.mutateAsync({
        stage: 'presets',
        item: `preset ${r.number}`,
        outcome: 'passed',
        facts: null,
      });
  };
  return {
    act: {
      text: say.keepMeasured({ fresh: fresh.length }),
      main: true,
      hotkey: 'k',
      testID: 'keep-presets',
      onPress: () => void keep().catch(() => undefined),
    },
    error: prove.error,
  };
}

function PresetsSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const { tag } = machine;
  const wiring = useWiring(tag);
  const now = useCommandNow(model);
  const undo = useUndo(tag, 'draft');
  const proofOf = useProofs(model);
  const units = speedUnits(drafted, machine.driven, wiring);
  const [unitId, setUnit] = useState<SpeedUnit['id']>('frequency');
  const unit = units.find((u) => u.id === unitId) ?? units[0];
  const { contacts, rows } = useMemo(() => presetTable(drafted), [drafted]);
  const inDrive = useMemo(() => (model.held ? presetTable(model.held).rows : []), [model.held]);
  const { found: seen } = useSeen(tag, 'presets');
  const keep = useKeep(model, inDrive, seen);
  const chosen = now?.told.speed === 'preset' ? now.command.preset : now ? 0 : null;
  const entries = rows.flatMap((r) => presetEntry(model, r, unit) ?? []);
  const shown = new Set([...drafted.presets, ...drafted.having(sections.flatMap((s) => s.roles))].map((s) => s.code));
  return (
    <MachineFrame
      model={model}
      stage="presets"
      title={say.presets}
      entries={[...entries, ownUnitEntry(model, wiring), ...sectionEntries(model, 'presets', sections)]}
      acts={[undo, keep.act ?? writeOrGoOn(model, 'presets')]}
      evidenceTitle={say.whichSwitchesGiveWhich}
      evidenceNote={now ? 'live' : say.asDrafted}
      evidence={<Selection rows={rows} unit={unit} chosen={chosen} />}
    >
      <Segments
        label={say.unitOfTheSpeeds}
        options={units.map((u) => ({ value: u.id, text: u.name, testID: `unit-${u.name}` }))}
        value={unit.id}
        onChoose={setUnit}
      />
      <Refusal of={keep.error} />
      <StageFindings model={model} findings={otherFindings(model, 'presets', shown)} />
      {contacts.length === 0 ? (
        <Note>{say.noInputChoosesAPreset}</Note>
      ) : (
        <Note>
          {say.turnTheRealSwitchesWhile({ contacts: contacts.map((c) => `${inputName(drafted, c.input)} counts ${2 ** c.bit}`).join(', ') })}
        </Note>
      )}
      <SectionHead right={say.withSwitch({ rows: rows.length, contacts: contacts.length })}>{say.speeds}</SectionHead>
      {rows.map((row) => (
        <Row
          key={row.number}
          model={model}
          row={row}
          unit={unit}
          chosen={chosen === row.number}
          seen={seen[`preset ${row.number}`]?.frequency}
          proved={proofOf('presets', say.preset2({ number: row.number })).standing.state}
        />
      ))}
      <StageFindings model={model} findings={model.findings.filter((f) => f.id === 'two ramps')} />
      <Fold title={say.theMachinesOwnUnit} right={wiring.unit?.name ?? say.noneGiven} open={false} testID="fold-unit">
        <OwnUnit model={model} wiring={wiring} />
      </Fold>
      <SettingSections model={model} stage="presets" sections={sections} />
    </MachineFrame>
  );
}

function Row({
  model,
  row,
  unit,
  chosen,
  seen,
  proved,
}: {
  model: MachineModel;
  row: PresetRow;
  unit: SpeedUnit;
  chosen: boolean;
  seen: number | undefined;
  proved: string;
}) {
  const { setting } = row;
  const entry = presetEntry(model, row, unit);
  if (!setting || !entry)
    return (
      <SheetRow
        label={say.allSwitchesOpen}
        second={<PresetSecond closed={row.closed} text={[chosen && say.chosenNow, openSpeed(model.drafted)].filter(Boolean).join(' · ')} />}
        {...(row.given !== null && { figure: formatFigure(row.given * unit.perHertz, unit.decimals), unit: unit.name })}
        testID="preset-0"
      />
    );
  const way = (row.given ?? 0) < 0 ? say.backward : '';
  const told = [
    chosen && say.chosenNow,
    row.given !== null && row.given !== row.asked && say.givesHz({ given: row.given }),
    seen !== undefined ? say.measuredHz({ seen }) : setting.code,
  ].filter(Boolean);
  return (
    <>
      <EntryRow
        entry={entry}
        label={say.preset3({ number: row.number, way })}
        second={<PresetSecond closed={row.closed} text={told.join(' · ')} />}
        mark={<ProofShape proof={proved === 'passed' ? 'proved' : seen !== undefined || proved === 'stale' ? 'stale' : 'not yet'} />}
        testID={`preset-${row.number}`}
      />
      <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'presets' && f.code === setting.code)} />
    </>
  );
}

const PresetSecond = ({ closed, text }: { closed: readonly boolean[]; text: string }) => (
  <View flexDirection="row" alignItems="center" gap={8}>
    <Switches closed={closed} />
    <View flex={1}>
      <Second>{unbroken(text)}</Second>
    </View>
  </View>
);

/** The whole selection, for the evidence of a wide screen. */
const Selection = ({ rows, unit, chosen }: { rows: readonly PresetRow[]; unit: SpeedUnit; chosen: number | null }) => (
  <>
    {chosen !== null && <Finding severity="act" sentence={chosen === 0 ? say.noPresetIsChosenNow : say.presetIsChosenNow({ chosen })} />}
    {rows.map((r) => (
      <SheetRow
        key={r.number}
        label={r.number === 0 ? 'open' : say.preset({ number: r.number })}
        {...(r.given !== null && { figure: formatFigure(r.given * unit.perHertz, unit.decimals), unit: unit.name })}
      >
        <Switches closed={r.closed} />
      </SheetRow>
    ))}
  </>
);

/** Preset speeds, the switches that choose them, and the speed measured at each. */
export const PresetsScreen = machineScreen(PresetsSheet);
