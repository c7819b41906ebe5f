import { machineScreen } from '../../machine/machineScreen';
import { useSurvey } from '../../data/survey';
import { atHand, longCable, type MachineModel, surveyLacks, warmAmbient } from '@yare/commissioning';
import { Fragment, useState } from 'react';
import type { Driven, Survey } from '@yare/contract';
import { editSurvey } from '../../data/edits';
import { Choices } from '../../ui/entry';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { KeptTextLine } from '../../ui/TextLine';
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

type Set = (change: Partial<Survey>) => void;

/** A figure of the survey as it is typed. */
const figureEntry = (tag: string, r: Row, survey: Survey, set: Set): Entry => ({
  id: `${tag} survey ${r.field}`,
  label: r.label,
  value: survey[r.field],
  unit: r.unit,
  decimals: 0,
  min: r.min,
  max: r.max,
  optional: r.optional,
  onSet: (value) => set({ [r.field]: value }),
});

function FigureRow({ row, survey, entry }: { row: Row; survey: Survey; entry: Entry }) {
  const value = survey[row.field];
  return (
    <EntryRow entry={entry} second={value === null ? 'not recorded' : row.second} mark={value === null ? '' : 'C'} testID={`survey-${row.field}`} />
  );
}

/** A row that opens into its choices. */
function ChoiceRow<V extends string | number>({
  label,
  second,
  options,
  value,
  onChoose,
  testID,
}: {
  label: string;
  second: string;
  options: ReadonlyArray<{ value: V; label: string; second?: string }>;
  value: V | null;
  onChoose: (value: V) => void;
  testID: string;
}) {
  const [open, setOpen] = useState(false);
  const chosen = options.find((o) => o.value === value);
  return (
    <>
      <SheetRow
        label={label}
        second={second}
        text={chosen?.label ?? '–'}
        mark={chosen ? 'C' : ''}
        inHand={open}
        onPress={() => setOpen(!open)}
        testID={testID}
      />
      {open && (
        <Choices
          options={options}
          value={value}
          onChoose={(v) => {
            setOpen(false);
            const option = options.find((o) => o.value === v);
            if (option) onChoose(option.value);
          }}
        />
      )}
    </>
  );
}

/** What the place does to the drive and its cable. */
function PlaceFindings({ field, survey }: { field: FigureField; survey: Survey }) {
  const { cableLength, ambient } = survey;
  if (field === 'cableLength' && (cableLength ?? 0) > longCable)
    return (
      <Finding
        severity="warning"
        sentence={`${cableLength} m of motor cable: pulses reflect at the motor and stress its first turns above about ${longCable} m (common practice). Plan an output choke or filter.`}
      />
    );
  if (field === 'ambient' && (ambient ?? 0) > warmAmbient)
    return (
      <Finding severity="warning" sentence={`Above ${warmAmbient} °C the drive carries less. The Drive stage takes ${ambient} °C into account.`} />
    );
  return null;
}

/** What has to lie at hand: a list of its own on a wide screen, rows of the sheet on a phone. */
function AtHand({ list }: { list: ReturnType<typeof atHand> }) {
  const wide = useWide();
  return (
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
}

function Why({ survey, set }: { survey: Survey; set: Set }) {
  return (
    <KeptTextLine
      label="Reason for the work"
      placeholder="New drive, new motor, after a repair…"
      value={survey.why}
      onKeep={(why) => set({ why })}
      testID="survey-why"
    />
  );
}

const phaseChoices = [
  { value: 3, label: 'Three' },
  { value: 1, label: 'One', second: 'half of a three-phase drive’s current is left' },
] as const;
const screenChoices = [
  { value: 1, label: 'Screened' },
  { value: 0, label: 'Unscreened' },
] as const;

function SurveySheet({ model }: { model: MachineModel }) {
  const { tag, driven } = model.machine;
  const wide = useWide();
  const { survey, made } = useSurvey(model);
  const undo = useUndo(tag, 'survey');
  const set = (change: Partial<Survey>) =>
    editSurvey(tag, change, Object.fromEntries(Object.entries(survey).filter(([field]) => field in change)) as Partial<Survey>);
  const setDriven = (to: Driven) => editSurvey(tag, { driven: to }, { driven: survey.driven ?? null });
  const [address, setAddress] = useState<number | null>(null);
  const where = addressEntry(tag, address ?? model.machine.unitId, (unitId) => setAddress(unitId === model.machine.unitId ? null : unitId));
  const load = drivenEntries(tag, driven, setDriven);
  const supply = supplyRows.map((row) => ({ row, entry: figureEntry(tag, row, survey, set) }));
  const place = placeRows.map((row) => ({ row, entry: figureEntry(tag, row, survey, set) }));
  const list = atHand(survey, driven.kind, (driven.kind === 'conveyor' || driven.kind === 'hoist') && driven.brakeShare !== null);
  const lacks = surveyLacks(survey, model.machine);
  return (
    <MachineFrame
      model={model}
      stage="survey"
      title="Survey"
      entries={[where, ...[...supply, ...place].map((r) => r.entry), ...load]}
      acts={[undo, goOn(tag, 'survey')]}
      evidenceTitle="At hand before you start"
      evidenceNote={`${list.length} things`}
      evidence={<AtHand list={list} />}
    >
      <RecordRows machine={model.machine} address={where} asked={address} onAsked={setAddress} />
      <SectionHead right={made ? `${made.author}, ${when(made.at)}` : 'nobody yet'}>Reason for the work</SectionHead>
      <Why survey={survey} set={set} />
      <SectionHead>Supply</SectionHead>
      {supply.map((r) => (
        <FigureRow key={r.row.field} {...r} survey={survey} />
      ))}
      <ChoiceRow
        label="Phases"
        second="that feed the drive"
        options={phaseChoices}
        value={survey.phases}
        onChoose={(phases) => set({ phases })}
        testID="survey-phases"
      />
      <SectionHead>Location</SectionHead>
      {place.map((r) => (
        <Fragment key={r.row.field}>
          <FigureRow {...r} survey={survey} />
          <PlaceFindings field={r.row.field} survey={survey} />
        </Fragment>
      ))}
      <ChoiceRow
        label="Cable screen"
        second={survey.screened === null ? 'not looked at yet' : 'of the motor cable'}
        options={screenChoices}
        value={survey.screened === null ? null : survey.screened ? 1 : 0}
        onChoose={(v) => set({ screened: v === 1 })}
        testID="survey-screened"
      />
      <DrivenRows
        driven={driven}
        estimated={model.machine.drivenEstimated}
        taken={Boolean(survey.driven)}
        plate={model.plate}
        entries={load}
        onSet={setDriven}
      />
      {lacks.length > 0 && <Note>{`Still to be recorded: ${lacks.join(', ')}. Until then the usual figures are used, and each place says so.`}</Note>}
      {!wide && <AtHand list={list} />}
    </MachineFrame>
  );
}

/** What is found at the machine before anything is touched, and what has to lie at hand. */
export const SurveyScreen = machineScreen(SurveySheet);
