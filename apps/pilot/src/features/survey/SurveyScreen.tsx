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
import { say } from '@yare/words/pages/survey';
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
  { field: 'voltage', label: say.supplyVoltage, second: say.lineToLineAsIt, unit: 'V', min: 50, max: 1000 },
  { field: 'frequency', label: say.supplyFrequency, second: say.ofThisPlant, unit: say.hz, min: 40, max: 70 },
];
const placeRows: Row[] = [
  { field: 'ambient', label: say.ambientAtTheDrive, second: say.onTheHottestDayIn, unit: '°C', min: -30, max: 80, optional: true },
  { field: 'altitude', label: say.altitude, second: say.aboveTheSea, unit: 'm', min: -500, max: 6000, optional: true },
  { field: 'cableLength', label: say.motorCable, second: say.driveToMotor, unit: 'm', min: 0, max: 2000, optional: true },
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
    <EntryRow entry={entry} second={value === null ? say.notRecorded : row.second} mark={value === null ? '' : 'C'} testID={`survey-${row.field}`} />
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
    return <Finding severity="warning" sentence={say.mOfMotorCablePulses({ cableLength, longCable })} />;
  if (field === 'ambient' && (ambient ?? 0) > warmAmbient)
    return <Finding severity="warning" sentence={say.aboveCTheDriveCarries({ warmAmbient, ambient })} />;
  return null;
}

/** What has to lie at hand: a list of its own on a wide screen, rows of the sheet on a phone. */
function AtHand({ list }: { list: ReturnType<typeof atHand> }) {
  const wide = useWide();
  return (
    <>
      {!wide && <SectionHead right={say.things({ list: list.length })}>{say.atHandBeforeYouStart}</SectionHead>}
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
      label={say.reasonForTheWork}
      placeholder={say.newDriveNewMotorAfter}
      value={survey.why}
      onKeep={(why) => set({ why })}
      testID="survey-why"
    />
  );
}

const phaseChoices = [
  { value: 3, label: say.three },
  { value: 1, label: say.one, second: say.halfOfAThreePhaseDrives },
] as const;
const screenChoices = [
  { value: 1, label: say.screened },
  { value: 0, label: say.unscreened },
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
      title={say.survey}
      entries={[where, ...[...supply, ...place].map((r) => r.entry), ...load]}
      acts={[undo, goOn(tag, 'survey')]}
      evidenceTitle={say.atHandBeforeYouStart}
      evidenceNote={say.things({ list: list.length })}
      evidence={<AtHand list={list} />}
    >
      <RecordRows machine={model.machine} address={where} asked={address} onAsked={setAddress} />
      <SectionHead right={made ? `${made.author}, ${when(made.at)}` : say.nobodyYet}>{say.reasonForTheWork}</SectionHead>
      <Why survey={survey} set={set} />
      <SectionHead>{say.supply}</SectionHead>
      {supply.map((r) => (
        <FigureRow key={r.row.field} {...r} survey={survey} />
      ))}
      <ChoiceRow
        label={say.phases}
        second={say.thatFeedTheDrive}
        options={phaseChoices}
        value={survey.phases}
        onChoose={(phases) => set({ phases })}
        testID="survey-phases"
      />
      <SectionHead>{say.location}</SectionHead>
      {place.map((r) => (
        <Fragment key={r.row.field}>
          <FigureRow {...r} survey={survey} />
          <PlaceFindings field={r.row.field} survey={survey} />
        </Fragment>
      ))}
      <ChoiceRow
        label={say.cableScreen}
        second={survey.screened === null ? say.notLookedAtYet : say.ofTheMotorCable}
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
      {lacks.length > 0 && <Note>{say.stillToBeRecordedUntil({ lacks: lacks.join(', ') })}</Note>}
      {!wide && <AtHand list={list} />}
    </MachineFrame>
  );
}

/** What is found at the machine before anything is touched, and what has to lie at hand. */
export const SurveyScreen = machineScreen(SurveySheet);
