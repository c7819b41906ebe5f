import { machineScreen } from '../../machine/machineScreen';
import { useSurvey } from '../../data/survey';
import { atHand, type MachineModel, surveyLacks } from '@yare/commissioning';
import { Fragment, useState } from 'react';
import type { Driven, Survey } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { editSurvey } from '../../data/edits';
import { Choices, type Entry } from '../../ui/entry';
import { EntryRow } from '../../ui/EntryRow';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { TextLine } from '../../ui/TextLine';
import { Body, Second } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { View } from '@tamagui/core';
import { goOn } from '../../machine/goOn';
import { DrivenRows, drivenEntries } from './DrivenRows';
import { addressEntry } from '../../machine/plateFigures';
import { RecordRows } from './RecordRows';

type FigureField = 'voltage' | 'frequency' | 'ambient' | 'altitude' | 'cableLength';

interface Row {
  field: FigureField;
  label: string;
  second: string;
  unit: string;
  min: number;
  max: number;
  optional?: boolean;
}

const supplyRows: Row[] = [
  { field: 'voltage', label: 'Supply voltage', second: 'line to line, as it should be', unit: 'V', min: 50, max: 1000 },
  { field: 'frequency', label: 'Supply frequency', second: 'of this plant', unit: 'Hz', min: 40, max: 70 },
];
const placeRows: Row[] = [
  { field: 'ambient', label: 'Ambient at the drive', second: 'on the hottest day, in the panel', unit: '°C', min: -30, max: 80, optional: true },
  { field: 'altitude', label: 'Altitude', second: 'above the sea', unit: 'm', min: -500, max: 6000, optional: true },
  { field: 'cableLength', label: 'Motor cable', second: 'drive to motor', unit: 'm', min: 0, max: 2000, optional: true },
];

function SurveySheet({ model }: { model: MachineModel }) {
  const { tag, driven } = model.machine;
  const wide = useWide();
  const { survey, made } = useSurvey(model);
  const undo = useUndo(tag, 'survey');
  const [open, setOpen] = useState<'phases' | 'screened' | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const set = (change: Partial<Survey>) =>
    editSurvey(tag, change, Object.fromEntries(Object.keys(change).map((k) => [k, survey[k as keyof Survey]])) as Partial<Survey>);
  const setDriven = (to: Driven) => editSurvey(tag, { driven: to }, { driven: survey.driven ?? null });
  const [address, setAddress] = useState<number | null>(null);
  const where = addressEntry(tag, address ?? model.machine.unit, (unit) => setAddress(unit === model.machine.unit ? null : unit));
  const load = drivenEntries(tag, driven, setDriven);
  const figures = [...supplyRows, ...placeRows].map((r): Entry => ({
    id: `${tag} survey ${r.field}`,
    label: r.label,
    value: survey[r.field],
    unit: r.unit,
    decimals: 0,
    min: r.min,
    max: r.max,
    optional: r.optional,
    onSet: (value) => set({ [r.field]: value } as Partial<Survey>),
  }));
  const list = atHand(survey, driven.kind, driven.kind === 'conveyor' && driven.brakeShare !== null);
  const lacks = surveyLacks(survey, model.machine);
  const row = (r: Row) => {
    const e = figures.find((x) => x.id.endsWith(` ${r.field}`))!;
    const value = survey[r.field];
    return (
      <EntryRow
        key={r.field}
        entry={e}
        second={value === null ? 'not taken down yet' : r.second}
        figure={value === null ? '–' : formatFigure(value, 0)}
        mark={value === null ? '' : 'C'}
        testID={`survey-${r.field}`}
      />
    );
  };
  const atHandRows = (
    <>
      {!wide && <SectionHead right={`${list.length} things`}>At hand before you start</SectionHead>}
      {list.map((x) =>
        wide ? (
          <View key={x.what} paddingHorizontal={16} paddingVertical={10} borderBottomWidth={1} borderColor="$rule">
            <Body>{x.what}</Body>
            <Second>{x.why}</Second>
          </View>
        ) : (
          <SheetRow key={x.what} label={x.what} second={x.why} />
        ),
      )}
    </>
  );
  return (
    <MachineFrame
      model={model}
      stage="survey"
      title="Survey"
      entries={[where, ...figures, ...load]}
      acts={[undo, goOn(tag, 'survey')]}
      evidenceTitle="At hand before you start"
      evidenceNote={`${list.length} things`}
      evidence={atHandRows}
    >
      <RecordRows machine={model.machine} address={where} asked={address} onAsked={setAddress} />
      <SectionHead right={made ? `${made.author}, ${when(made.at)}` : 'nobody yet'}>Why it is done</SectionHead>
      <TextLine
        label="Why the drive is commissioned"
        placeholder="New drive, new motor, after a repair…"
        value={why ?? survey.why}
        onChange={setWhy}
        act={why !== null && why !== survey.why ? 'Set' : undefined}
        onAct={() => {
          set({ why: (why ?? '').trim() });
          setWhy(null);
        }}
        testID="survey-why"
        actTestID="survey-why-set"
      />
      <SectionHead>Supply</SectionHead>
      {supplyRows.map(row)}
      <SheetRow
        label="Phases"
        second="that feed the drive"
        words={survey.phases === 3 ? 'Three' : 'One'}
        mark="C"
        inHand={open === 'phases'}
        onPress={() => setOpen(open === 'phases' ? null : 'phases')}
        testID="survey-phases"
      />
      {open === 'phases' && (
        <Choices
          options={[
            { value: 3, label: 'Three' },
            { value: 1, label: 'One', second: 'half of a three-phase drive’s current is left' },
          ]}
          value={survey.phases}
          onChoose={(v) => {
            setOpen(null);
            set({ phases: v as 1 | 3 });
          }}
        />
      )}
      <SectionHead>Where it stands</SectionHead>
      {placeRows.map((r) => (
        <Fragment key={r.field}>
          {row(r)}
          {r.field === 'cableLength' && (survey.cableLength ?? 0) > 50 && (
            <Finding
              severity="warning"
              sentence={`${survey.cableLength} m of motor cable: pulses reflect at the motor and stress its first turns above about 50 m (common practice). Plan an output choke or filter.`}
            />
          )}
          {r.field === 'ambient' && (survey.ambient ?? 0) > 40 && (
            <Finding severity="warning" sentence={`Above 40 °C the drive carries less. The Drive stage takes ${survey.ambient} °C into account.`} />
          )}
        </Fragment>
      ))}
      <SheetRow
        label="Cable screen"
        second={survey.screened === null ? 'not looked at yet' : 'of the motor cable'}
        words={survey.screened === null ? '–' : survey.screened ? 'Screened' : 'Open'}
        mark={survey.screened === null ? '' : 'C'}
        inHand={open === 'screened'}
        onPress={() => setOpen(open === 'screened' ? null : 'screened')}
        testID="survey-screened"
      />
      {open === 'screened' && (
        <Choices
          options={[
            { value: 1, label: 'Screened' },
            { value: 0, label: 'Open' },
          ]}
          value={survey.screened === null ? null : Number(survey.screened)}
          onChoose={(v) => {
            setOpen(null);
            set({ screened: v === 1 });
          }}
        />
      )}
      <DrivenRows
        driven={driven}
        estimated={model.machine.drivenEstimated}
        taken={Boolean(survey.driven)}
        plate={model.plate}
        entries={load}
        onSet={setDriven}
      />
      {lacks.length > 0 && (
        <Note>{`Still to be taken down: ${lacks.join(', ')}. Until then the usual figures are taken, and it is said where.`}</Note>
      )}
      {!wide && atHandRows}
    </MachineFrame>
  );
}

/** What is found at the machine before anything is touched, and what has to lie at hand. */
export const SurveyScreen = machineScreen(SurveySheet);
