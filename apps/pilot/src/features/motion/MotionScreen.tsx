import { machineScreen } from '../../machine/machineScreen';
import { lookAheadBand, type BandQuantity, type MachineModel, motionStage, type Section } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { memo, useEffect, useMemo, useState } from 'react';
import { storedValue } from '@yare/books';
import {
  busAtRest,
  completePlate,
  formatFigure,
  shutOffSpeed,
  toSi,
  type LookAhead,
  type MachineSpec,
  type WhatIf,
  type SettingRole,
  present,
} from '@yare/core';
import { editDraft } from '../../data/edits';
import { useLookAhead, type LookAheadState } from '../../data/lookAhead';
import { motionFindings } from '@yare/commissioning';
import { Chart } from '../../ui/chart/Chart';
import type { Pane } from '../../ui/chart/pane';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { settingEntry, SettingRow } from '../../machine/SettingRow';
import { Finding, Fold, Note } from '../../ui/sheet';
import { StageFindings } from '../../machine/StageFindings';
import { Mono, Second, Strong } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { WhatIfRows } from './WhatIf';
import { go } from '../../ui/go';
import { goOn } from '../../machine/goOn';

const { sections = [] } = motionStage;

function MotionSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const spec = model.draftSpec.ok ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, model.differing.length > 0 ? model.inDriveSpec : null);
  const undo = useUndo(tag, 'draft');
  const settings = useMemo(
    () =>
      sections
        .flatMap((s) => s.roles)
        .flatMap((role) => {
          const setting = model.drafted.find(role);
          return setting ? [{ role, setting }] : [];
        }),
    [model.drafted],
  );
  const entries = settings.filter((s) => !s.setting.options).map((s) => settingEntry(model, s.setting, 'motion'));
  const [drawn, setDrawn] = useState<{ question: WhatIf; ahead: LookAhead } | null>(null);
  useEffect(() => setDrawn(null), [ahead.draft]);
  const learned = Boolean(model.machine.learned?.values);
  const band = (quantity: BandQuantity) => lookAheadBand(model.machine.driven.kind, learned, quantity);
  const findings = spec && ahead.draft ? motionFindings(spec, ahead.draft, band) : [];
  const count = model.differing.length;

  const useShortest = () => {
    const setting = model.drafted.need('decelerationTime');
    const value = Math.min(setting.max, storedValue(setting, Math.ceil(present(ahead.stopping).without / setting.step) * setting.step));
    editDraft(tag, { [setting.code]: { value, source: 'worked out' } }, { [setting.code]: model.draftOf(setting.code) });
  };
  // a question's answer is drawn only as long as the figures it was asked with stand
  const chart = <AheadChart state={drawn ? { ...ahead, draft: drawn.ahead, inDrive: null } : ahead} spec={spec} />;
  const source = learned ? 'learned from a recording' : 'estimate from the plate';
  return (
    <MachineFrame
      model={model}
      stage="motion"
      title="Motion"
      entries={entries}
      acts={[
        undo,
        count > 0
          ? {
              words: `Write ${count} ${count === 1 ? 'change' : 'changes'}`,
              main: true,
              hotkey: 'w',
              onPress: () => go(`/m/${tag}/write`),
              testID: 'go-write',
            }
          : goOn(tag, 'motion'),
      ]}
      evidenceTitle="Look-ahead: start, run, stop"
      evidenceNote={ahead.busy ? 'computing…' : source}
      evidence={
        <>
          {chart}
          {spec && ahead.draft && (
            <StopArithmetic spec={spec} ahead={ahead.draft} shortest={ahead.stopping?.without ?? null} took={ahead.took} learned={learned} />
          )}
        </>
      }
    >
      {!model.draftSpec.ok && (
        <Finding severity="error" sentence={`No look-ahead: ${model.draftSpec.sentence}`} act="Go to the plate" onAct={() => go(`/m/${tag}/plate`)} />
      )}
      {!wide && spec && (
        <>
          <View flexDirection="row" justifyContent="space-between" paddingHorizontal={14} paddingVertical={6} backgroundColor="$sheet">
            <Second>Look-ahead: start, run, stop</Second>
            <Second>{ahead.busy ? 'computing…' : source}</Second>
          </View>
          {chart}
        </>
      )}
      {sections
        .filter((section) => section.roles.some((role) => settings.some((s) => s.role === role)))
        .map((section) => (
          <Fold
            key={section.title}
            title={section.title}
            right={foldWords(model, section.roles)}
            open={opensAtFirst(model, section)}
            testID={`fold-${section.title}`}
          >
            {settings
              .filter((s) => section.roles.includes(s.role))
              .map(({ role, setting }) => {
                return (
                  <SettingRow key={role} model={model} setting={setting} stage="motion" second={secondLine(role, model, ahead)}>
                    {findings
                      .filter((f) => f.row === role)
                      .map((f) => {
                        const shortest = ahead.stopping?.without ?? null;
                        const offer = f.offer && shortest !== null && shortest > model.draftOf(setting.code).value;
                        return (
                          <Finding
                            key={f.sentence}
                            severity={f.severity}
                            sentence={f.sentence}
                            act={
                              offer
                                ? `${f.offer}: ${formatFigure(Math.ceil(present(shortest) / setting.step) * setting.step, setting.decimals)} s`
                                : undefined
                            }
                            onAct={offer ? useShortest : undefined}
                          />
                        );
                      })}
                    <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'motion' && f.code === setting.code)} />
                  </SettingRow>
                );
              })}
          </Fold>
        ))}
      {spec && ahead.draft && (
        <WhatIfRows
          model={model}
          spec={spec}
          state={ahead}
          shown={drawn?.question ?? null}
          onShow={(question, answer) => setDrawn(question && answer ? { question, ahead: answer } : null)}
        />
      )}
    </MachineFrame>
  );
}

/** What a shut section holds, so that it need not be opened to know. */
function foldWords(model: MachineModel, roles: readonly SettingRole[]): string {
  const settings = model.drafted.having(roles);
  const differ = settings.filter((s) => model.differing.includes(s)).length;
  return differ > 0 ? `${differ} not as drive` : `${settings.length} ${settings.length === 1 ? 'setting' : 'settings'}`;
}

/** Ramps, limits and stopping lie open, and whatever something is wrong with. */
const opensAtFirst = (model: MachineModel, section: Section): boolean =>
  alwaysOpen.has(section.id) ||
  model.drafted.having(section.roles).some((s) => model.findings.some((f) => f.stage === 'motion' && f.code === s.code && f.severity !== 'good'));

const alwaysOpen: ReadonlySet<string> = new Set(['ramps', 'limits', 'stopping']);

/** The quiet line under a row: what it counts between, what is worked out about it. */
function secondLine(role: SettingRole, model: MachineModel, ahead: LookAheadState): string | undefined {
  const base = `${formatFigure(model.plate.frequency, 0)} Hz`;
  switch (role) {
    case 'accelerationTime':
      return `0 to ${base}`;
    case 'decelerationTime':
      return ahead.stopping === null
        ? `${base} to 0`
        : `${base} to 0 · shortest that never waits ${formatFigure(ahead.stopping.without, 1)} s, with a resistor ${formatFigure(ahead.stopping.withResistor, 1)} s`;
    case 'maximumFrequency':
      return `plate ${base}`;
    case 'minimumFrequency':
      return waterLine(model) ?? undefined;
    default:
      return undefined;
  }
}

/** Below which frequency a pump with a set pressure moves no water; null for other machines. */
function waterLine(model: MachineModel): string | null {
  const { driven } = model.machine;
  if (driven.kind !== 'pump' || driven.setPressure === null || !model.draftSpec.ok) return null;
  const { load, circuit } = model.draftSpec.spec;
  if (load.kind !== 'pump') return null;
  const plate = completePlate(model.plate);
  const hertz = (shutOffSpeed(load, toSi(driven.setPressure, 'bar')) * circuit.poles) / (4 * Math.PI) / (1 - plate.slip);
  return `below about ${formatFigure(hertz, 0)} Hz it moves no water at ${driven.setPressure} bar (estimate)`;
}

const AheadChart = memo(function AheadChart({ state, spec }: { state: LookAheadState; spec: MachineSpec | null }) {
  const { draft, inDrive } = state;
  const panes = useMemo((): Pane[] => {
    if (!draft || !spec) return [];
    const series = (key: keyof LookAhead['series']) => [
      { time: draft.series.time, values: draft.series[key], label: 'draft' },
      ...(inDrive ? [{ time: inDrive.series.time, values: inDrive.series[key], dashed: true, label: 'in drive' }] : []),
    ];
    return [
      { key: 'frequency', name: 'Output', unit: 'Hz', decimals: 1, series: series('frequency'), leastSpan: 10 },
      {
        key: 'current',
        name: 'Motor',
        unit: 'A',
        decimals: 1,
        series: series('current'),
        limits: [{ value: spec.drive.currentLimit, label: `limit ${formatFigure(spec.drive.currentLimit, 1)}`, side: 'above' }],
        leastSpan: 1,
      },
      {
        key: 'bus',
        name: 'DC bus',
        unit: 'V',
        decimals: 0,
        series: series('busVoltage'),
        leastSpan: 200,
        limits: [
          { value: spec.rating.overvoltageTrip, label: `trips at ${spec.rating.overvoltageTrip}`, side: 'above' },
          { value: spec.rating.undervoltageTrip, label: `trips at ${spec.rating.undervoltageTrip}`, side: 'below' },
        ],
      },
    ];
  }, [draft, inDrive, spec]);
  if (!draft || !spec) return state.busy ? <Note>Looking ahead…</Note> : null;
  const end = Math.max(draft.series.time.at(-1) ?? 1, Math.min(inDrive?.series.time.at(-1) ?? 0, 3 * (draft.series.time.at(-1) ?? 1)));
  const peak = draft.series.busVoltage.indexOf(Math.max(...draft.series.busVoltage));
  return (
    <>
      <Chart panes={panes} domain={[0, end]} xUnit="s" paneHeight={66} restCursor={draft.series.time[peak]} testID="look-ahead" />
      {inDrive && (
        <View flexDirection="row" paddingHorizontal={14} paddingBottom={6} backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
          <Second>Solid: draft. Dashed: what is in the drive now.</Second>
        </View>
      )}
    </>
  );
});

/** Where the energy of the stop goes, with the figures of this machine. */
function StopArithmetic({
  spec,
  ahead,
  shortest,
  took,
  learned,
}: {
  spec: MachineSpec;
  ahead: LookAhead;
  shortest: number | null;
  took: number | null;
  learned: boolean;
}) {
  const omega = (2 * Math.PI * spec.drive.maximumFrequency * 2) / spec.circuit.poles;
  const energy = 0.5 * spec.inertia * omega * omega;
  const rest = busAtRest(spec.supply);
  const room = 0.5 * spec.rating.busCapacitance * (spec.rating.overvoltageTrip ** 2 - rest ** 2);
  const kj = (x: number) => formatFigure(x / 1000, 2);
  return (
    <View padding={16} gap={4} borderTopWidth={1} borderColor="$rule2">
      <Strong>Shortest stop without a resistor</Strong>
      <Mono fontSize={15} lineHeight={22}>
        ½ J ω² = ½ · {formatFigure(spec.inertia, 3)} · {formatFigure(omega, 0)}² = {kj(energy)} kJ
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        bus takes ½ C ({spec.rating.overvoltageTrip}² − {formatFigure(rest, 0)}²) = {kj(room)} kJ
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        losses and load must take the rest
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        by the model, 15 V below the trip: <Strong>{shortest === null ? '…' : `${formatFigure(shortest, 1)} s`}</Strong>
      </Mono>
      <Second>
        Bus peak of the draft {formatFigure(ahead.summary.peakBus, 0)} V.{' '}
        {learned ? 'Inertia as learned from a recording.' : 'Inertia is an estimate: rotor by size, plus the load as known.'}
      </Second>
      {took !== null && <Second>Run computed in {formatFigure(took * 1000, 0)} ms.</Second>}
    </View>
  );
}

/** How the machine starts, runs and stops, with the look-ahead that redraws as the figures change. */
export const MotionScreen = machineScreen(MotionSheet);
