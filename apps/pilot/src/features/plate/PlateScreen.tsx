import { machineScreen } from '../../machine/machineScreen';
import { takeChanges } from '../../machine/takeChanges';
import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Fragment, memo, useMemo, useState } from 'react';
import { wordsOf } from '@yare/books';
import {
  breakdown,
  checkPlate,
  type circuitFromPlate,
  completePlate,
  formatFigure,
  otherConnection,
  speedCurve,
  starting,
  type CircuitValue,
  type PlateFinding,
  type StampedPlate,
  circuitOf,
} from '@yare/core';
import { isStampedPlate } from '@yare/contract/compiled/validators.js';
import { editPlate } from '../../data/edits';
import type { Act } from '../../ui/bar';
import { Chart } from '../../ui/chart/Chart';
import { Choices } from '../../ui/entry';
import { EntryRow } from '../../ui/EntryRow';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { StageFindings } from '../../machine/StageFindings';
import { Mono, Second, Strong } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { CircuitDrawing } from './Circuit';
import { KeptWithPlate } from './KeptWithPlate';
import { TerminalBox } from './TerminalBox';
import { figureRows, plateEntry, stampedDecimals } from '../../machine/plateFigures';
import { workedOut, type WorkedOut } from './workedOut';
import { goOn } from '../../machine/goOn';

/** A rounding below this share is nobody's business. */
const leastRounding = 0.005;

type ChoiceField = 'standard' | 'connection' | 'design' | 'leads' | 'joined';

function PlateSheet({ model }: { model: MachineModel }) {
  const { plate } = model;
  const { tag } = model.machine;
  const wide = useWide();
  const [open, setOpen] = useState<ChoiceField | null>(null);
  const [formula, setFormula] = useState<string>('input');
  const [opened, setOpened] = useState<string | null>(null);
  const undo = useUndo(tag, 'plate');
  const findings = useMemo(() => checkPlate(plate), [plate]);
  const solved = useMemo(() => {
    if (findings.some((f) => f.severity === 'error')) return null;
    const complete = completePlate(plate);
    return { complete, rows: workedOut(plate, complete), estimate: circuitOf(complete) };
  }, [plate, findings]);

  const set = (change: Partial<StampedPlate>) => {
    const before = Object.fromEntries(Object.keys(change).map((k) => [k, plate[k as keyof StampedPlate]])) as Partial<StampedPlate>;
    if (isStampedPlate({ ...plate, ...change })) editPlate(tag, change, before);
  };
  const rows = figureRows.filter((r) => !r.only || r.only === plate.standard);
  const entries = rows.map((r) => plateEntry(tag, r, plate, set));
  const copies = useMemo(() => model.drafted.plate(plate).filter((c) => model.draftOf(c.code).value !== c.exact), [model, plate]);
  const sound = findings.length === 0;
  const stored = useMemo(() => (sound ? model.drafted.plate(plate) : []), [model.drafted, plate, sound]);
  /** what this drive makes of a figure, where its steps are coarser than the stamp */
  const rounding = (field: string): string | null => {
    const s = model.drafted.all.find((x) => x.plate === field);
    const line = s && stored.find((x) => x.code === s.code);
    if (!s || !line || Math.abs(line.value / line.exact - 1) < leastRounding) return null;
    const off = 100 * (line.value / line.exact - 1);
    return `${model.drafted.book.family} stores ${wordsOf(s, line.value)} ${s.unit} (${off > 0 ? '+' : '−'}${formatFigure(Math.abs(off), 1)} %)`;
  };

  const copyToDraft = () => {
    takeChanges(
      model,
      copies.map((c) => ({ code: c.code, value: c.exact, source: c.source })),
    );
  };
  const acts: Act[] = [
    undo,
    copies.length > 0
      ? {
          words: `Copy ${copies.length} ${copies.length === 1 ? 'figure' : 'figures'} to the draft`,
          main: true,
          hotkey: 'c',
          disabled: !sound,
          onPress: copyToDraft,
          testID: 'plate-copy',
        }
      : goOn(tag, 'plate', { disabled: !sound }),
  ];

  const underRow = (field: PlateFinding['field']) => [
    ...findings
      .filter((f) => f.field === field)
      .map((f) => (
        <Finding
          key={f.sentence}
          severity={f.severity}
          sentence={f.sentence}
          act={f.remedy?.label}
          onAct={f.remedy && (() => set(f.remedy!.change))}
        />
      )),
    <StageFindings key="against" model={model} findings={sound ? model.findings.filter((f) => f.stage === 'plate' && f.field === field) : []} />,
  ];
  const choice = (field: ChoiceField, label: string, second: string, options: Array<{ value: string | number; label: string }>) => (
    <Fragment key={field}>
      <SheetRow
        label={label}
        second={second}
        words={options.find((o) => o.value === (plate[field] ?? ''))?.label}
        mark="P"
        onPress={() => setOpen(open === field ? null : field)}
        inHand={open === field}
        testID={`plate-${field}`}
      />
      {open === field && (
        <Choices
          options={options}
          value={plate[field] ?? ''}
          onChoose={(v) => {
            set({ [field]: v === '' ? null : v, ...(field === 'leads' && v === 9 && { joined: plate.joined ?? 'series' }) } as Partial<StampedPlate>);
            setOpen(null);
          }}
        />
      )}
      {underRow(field)}
    </Fragment>
  );
  const other = otherConnection(plate);
  const connectionRows = (
    <>
      {choice('connection', 'Connection', 'of the windings', [
        { value: 'star', label: 'Star Y' },
        { value: 'delta', label: 'Delta Δ' },
      ])}
      {choice('leads', 'Leads in the box', plate.leads ? 'that can be linked' : 'not said yet', [
        { value: 3, label: '3' },
        { value: 6, label: '6, star or delta' },
        { value: 9, label: '9, dual voltage' },
      ])}
      {plate.leads === 9 &&
        choice('joined', 'Halves joined', 'of each phase', [
          { value: 'series', label: 'Series, high volts' },
          { value: 'parallel', label: 'Parallel, low volts' },
        ])}
      {plate.leads !== undefined && <TerminalBox plate={plate} />}
      {other && (
        <ActRow
          words={`Use its other connection: ${other.voltage} V, ${other.current} A`}
          second={other.connection ? `linked in ${other.connection}` : `halves in ${other.joined}`}
          onPress={() => set(other)}
          testID="other-connection"
        />
      )}
    </>
  );
  const shown = solved?.rows.find((r) => r.key === formula) ?? solved?.rows[0];

  return (
    <MachineFrame
      model={model}
      stage="plate"
      title="Plate"
      acts={acts}
      entries={entries}
      evidenceTitle={shown ? `Formula: ${shown.label.toLowerCase()}` : 'Formula'}
      evidenceNote={shown?.estimate ? 'estimate' : ''}
      evidence={
        <>
          {shown && <FormulaBlock row={shown} />}
          {solved?.estimate.ok && <Curves plate={plate} estimate={solved.estimate} />}
        </>
      }
    >
      <SectionHead right={`${model.machine.plate.author}, revision ${model.machine.plate.revision}`}>As stamped</SectionHead>
      {choice('standard', 'Standard', 'what kind of plate it is', [
        { value: 'IEC', label: 'IEC' },
        { value: 'NEMA', label: 'NEMA' },
      ])}
      {rows.map((r, i) => {
        const value = plate[r.field] as number | null;
        return (
          <Fragment key={r.field}>
            <EntryRow
              entry={entries[i]!}
              second={[value === null ? 'not stamped' : r.second, rounding(r.field)].filter(Boolean).join(' · ')}
              figure={value === null ? '–' : formatFigure(value, stampedDecimals(value, 3))}
              mark={value === null ? '' : 'P'}
              testID={`plate-${r.field}`}
            />
            {underRow(r.field)}
            {r.field === 'power' && underRow('powerUnit')}
            {r.field === 'voltage' && connectionRows}
          </Fragment>
        );
      })}
      {plate.standard === 'NEMA' &&
        choice('design', 'Design letter', 'shape of the torque curve', [
          { value: '', label: 'Not stamped' },
          ...['A', 'B', 'C', 'D'].map((d) => ({ value: d, label: d })),
        ])}

      <SectionHead>Worked out</SectionHead>
      {!solved && <Note>The plate contradicts itself. Nothing is worked out until the figure marked above is right.</Note>}
      {solved?.rows.map((r) => (
        <Fragment key={r.key}>
          <SheetRow
            label={r.label}
            second={r.estimate ? 'estimate · touch for the formula' : 'touch for the formula'}
            figure={r.figure}
            unit={r.unit}
            mark="W"
            estimate={r.estimate}
            inHand={wide ? shown?.key === r.key : opened === r.key}
            onPress={() => {
              setFormula(r.key);
              setOpened(opened === r.key ? null : r.key);
            }}
            testID={`worked-${r.key}`}
          />
          {!wide && opened === r.key && <FormulaBlock row={r} />}
        </Fragment>
      ))}

      <SectionHead right="estimate from the plate">Equivalent circuit</SectionHead>
      {solved && !solved.estimate.ok && <Finding severity="error" sentence={solved.estimate.sentence} />}
      {solved?.estimate.ok && <CircuitSection solved={solved.estimate} plate={plate} />}
      <KeptWithPlate model={model} />
    </MachineFrame>
  );
}

function FormulaBlock({ row }: { row: WorkedOut }) {
  return (
    <View padding={14} paddingLeft={16} backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" gap={4} testID="formula">
      {row.formula.map((line) => (
        <Mono key={line} fontSize={15} lineHeight={22}>
          {line}
        </Mono>
      ))}
      <Second>{row.source}</Second>
    </View>
  );
}

const names: Record<CircuitValue, [string, string]> = {
  r1: ['R1', 'stator resistance'],
  x1: ['X1', 'stator leakage'],
  xm: ['Xm', 'magnetising'],
  r2: ['R2', 'rotor resistance, referred'],
  x2: ['X2', 'rotor leakage, referred'],
  rFe: ['RFe', 'core loss'],
};

type Estimate = Extract<ReturnType<typeof circuitFromPlate>, { ok: true }>;

const CircuitSection = memo(function CircuitSection({ solved, plate }: { solved: Estimate; plate: StampedPlate }) {
  const wide = useWide();
  const phase = plate.voltage / Math.sqrt(3);
  const start = starting(solved.circuit, phase, plate.frequency);
  const pullOut = breakdown(solved.circuit, phase, plate.frequency);
  return (
    <>
      <CircuitDrawing estimate={solved} />
      {(Object.keys(names) as CircuitValue[]).map((k) => {
        const v = solved.circuit[k];
        return (
          <SheetRow
            key={k}
            label={names[k][0]}
            second={`${names[k][1]} · ± ${Math.max(1, Math.round(solved.spread[k] * 100))} %`}
            figure={formatFigure(v, v < 1 ? 3 : v < 100 ? 2 : 0)}
            unit="Ω"
            mark="W"
            estimate
          />
        );
      })}
      <SheetRow
        label="Breakdown torque"
        second={`assumed from size and poles · at ${formatFigure(pullOut.slip * 100, 0)} % slip`}
        figure={formatFigure(pullOut.torque, 1)}
        unit="N·m"
        mark="W"
        estimate
      />
      <SheetRow label="Starting current" second="straight across the line" figure={formatFigure(start.current, 1)} unit="A" mark="W" estimate />
      {!wide && <Curves plate={plate} estimate={solved} />}
    </>
  );
});

/** Torque and current over speed, across the line. */
const Curves = memo(function Curves({ plate, estimate }: { plate: StampedPlate; estimate: Estimate }) {
  const curve = useMemo(
    () => speedCurve(estimate.circuit, plate.voltage / Math.sqrt(3), plate.frequency, 161),
    [estimate, plate.voltage, plate.frequency],
  );
  const speed = curve.map((p) => p.speed);
  return (
    <View>
      <View flexDirection="row" justifyContent="space-between" paddingHorizontal={16} paddingTop={14} paddingBottom={4}>
        <Strong>Across the line</Strong>
        <Second>estimate</Second>
      </View>
      <Chart
        testID="curves"
        panes={[
          { key: 'torque', name: 'Torque', unit: 'N·m', decimals: 1, series: [{ time: speed, values: curve.map((p) => p.torque) }] },
          { key: 'current', name: 'Current', unit: 'A', decimals: 1, series: [{ time: speed, values: curve.map((p) => p.current) }] },
        ]}
        domain={[0, speed[speed.length - 1]!]}
        xUnit="rpm"
        xDecimals={0}
        paneHeight={96}
        restCursor={plate.speed}
      />
    </View>
  );
});

/** The nameplate as stamped, what does not fit on it, and the motor it tells of. */
export const PlateScreen = machineScreen(PlateSheet);
