import { machineScreen } from '../../machine/machineScreen';
import { useLive } from '../../data/live';
import { useSurvey } from '../../data/survey';
import {
  judgeInsulation,
  judgeVoltages,
  powerChecks,
  type Judgement,
  type PowerCheck,
  contradictedBy,
  deadBus,
  openBefore,
  type MachineModel,
  changedText,
} from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Fragment, useState, type ReactNode } from 'react';
import { Pressable } from 'react-native';
import type { LiveSample, Survey } from '@yare/contract';
import { formatFigure, type Supply } from '@yare/core';
import { proofText } from '@yare/words';
import { proofName } from '@yare/words/stages';
import { say } from '@yare/words/pages/before-power';
import { editSurvey } from '../../data/edits';
import { useProofs, useProve, type ProofStanding } from '../../data/proofs';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { MachineFrame } from '../../machine/MachineFrame';
import { ProofShape, type ProofState } from '../../ui/shapes';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Body, Second, Strong } from '../../ui/text';
import { when } from '../../ui/when';
import { go } from '../../ui/go';
import { goOn } from '../../machine/goOn';
import { useBusFall } from './useBusFall';
import { WindingKind } from './WindingKind';

const checkName = (id: string): string => proofName('before-power', id);

const shapeOf: Record<ProofStanding['standing']['state'], ProofState> = { passed: 'proved', 'not yet': 'not yet', stale: 'stale', failed: 'act' };
const phases = ['L1–L2', 'L2–L3', 'L3–L1'] as const;

/** The figures of a measured check, as entries of the survey. */
function figureEntries(tag: string, check: PowerCheck, survey: Survey, set: (change: Partial<Survey>) => void): Entry[] {
  if (check.figures === 'insulation') {
    const now = survey.insulation;
    return [
      {
        id: `${tag} power insulation`,
        label: say.insulationReading,
        value: now?.reading ?? null,
        unit: 'MΩ',
        decimals: 1,
        min: 0,
        max: 1e6,
        onSet: (v) => set({ insulation: { ...now, reading: v, temperature: now?.temperature ?? 20 } }),
      },
      {
        id: `${tag} power winding`,
        label: say.windingTemperature,
        value: now?.temperature ?? null,
        unit: '°C',
        decimals: 0,
        min: -30,
        max: 180,
        onSet: (v) => set({ insulation: { ...now, reading: now?.reading ?? null, temperature: v ?? 20 } }),
      },
    ];
  }
  if (check.figures === 'lineVoltages') {
    const now = survey.lineVoltages ?? [null, null, null];
    return phases.map((name, i) => ({
      id: `${tag} power ${name}`,
      label: name,
      value: now[i] ?? null,
      unit: 'V',
      decimals: 0,
      min: 0,
      max: 1500,
      onSet: (v: number | null) => set({ lineVoltages: now.map((x, k) => (k === i ? v : x)) }),
    }));
  }
  return [];
}

function judge(check: PowerCheck, survey: Survey): Judgement | null {
  if (check.figures === 'insulation') return judgeInsulation(survey.insulation);
  return check.figures === 'lineVoltages' ? judgeVoltages(survey.lineVoltages, survey.voltage) : null;
}

type CheckItem = { id: string; check: PowerCheck } & ProofStanding;

/** Proves a check, or undoes its proof. */
function useRecordCheck(model: MachineModel, onRecorded: (id: string) => void) {
  const prove = useProve(model);
  const record = (check: PowerCheck, passed: boolean, judged: Judgement | null) =>
    prove.mutate(
      {
        stage: 'before-power',
        item: check.id,
        outcome: passed ? 'passed' : 'failed',
        facts: judged?.facts ?? { kind: 'look' },
      },
      { onSuccess: () => onRecorded(check.id) },
    );
  const takeBack = (check: PowerCheck) =>
    prove.mutate({ stage: 'before-power', item: check.id, outcome: 'taken back', facts: null }, { onSuccess: () => onRecorded(check.id) });
  return { record, takeBack, error: prove.error, of: prove.variables?.item };
}

function PowerSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const { survey } = useSurvey(model);
  const proofOf = useProofs(model);
  const items = powerChecks.map((check): CheckItem => ({ id: check.id, check, ...proofOf('before-power', check.id) }));
  const first = items.find((i) => i.standing.state !== 'passed')?.id ?? null;
  const [chosen, setChosen] = useState<string | null | undefined>(undefined);
  // a check stays open with its mark once it is answered: nothing else comes under the finger
  const recording = useRecordCheck(model, setChosen);
  // until somebody chooses, the first check that is open lies open
  const open = chosen === undefined ? first : chosen;
  const set = (change: Partial<Survey>) => editSurvey(tag, change);
  const passed = items.filter((i) => i.standing.state === 'passed').length;
  const after = items.slice(items.findIndex((i) => i.id === open) + 1).find((i) => i.standing.state !== 'passed');
  return (
    <MachineFrame
      model={model}
      stage="before-power"
      title={say.beforePower}
      entries={powerChecks.flatMap((c) => figureEntries(tag, c, survey, set))}
      acts={[{ text: say.survey, hotkey: 'v', onPress: () => go(`/m/${tag}/survey`) }, goOn(tag, 'before-power')]}
      evidenceTitle={say.whyInThisOrder}
      evidence={<WhyInThisOrder />}
    >
      <SectionHead right={say.ofPassed({ passed, items: items.length })}>{say.inThisOrder}</SectionHead>
      {items.map((item) => (
        <Fragment key={item.id}>
          <CheckRow model={model} item={item} open={open === item.id} onOpen={() => setChosen(open === item.id ? null : item.id)} />
          {open === item.id && (
            <OpenCheck
              tag={tag}
              item={item}
              before={openBefore(items, item.id)}
              entries={figureEntries(tag, item.check, survey, set)}
              more={item.check.figures === 'insulation' && <WindingKind survey={survey} set={set} />}
              shortId={(e) => e.id.slice(tag.length + 7)}
              judged={judge(item.check, survey)}
              contradiction={{ lines: survey.lineVoltages, rectifier: model.drafted.rating.input }}
              recording={recording}
              next={after && { name: checkName(after.id), open: () => setChosen(after.id) }}
            />
          )}
        </Fragment>
      ))}
    </MachineFrame>
  );
}

function WhyInThisOrder() {
  return (
    <View padding={16} gap={10}>
      <Body>{say.deadAndLockedBeforeA}</Body>
      <Body>{say.insulationWhileTheMotorIs}</Body>
      <Body>{say.motorBeforeSupplyTheTwo}</Body>
      <Body>{say.theSupplyLastMeasuredBefore}</Body>
    </View>
  );
}

/** A check with where its proof stands. */
function CheckRow({ model, item, open, onOpen }: { model: MachineModel; item: CheckItem; open: boolean; onOpen: () => void }) {
  const { check, newest, standing } = item;
  const second =
    standing.state === 'stale'
      ? say.againChangedSince({ changedText: changedText(model, standing.changed) })
      : newest && standing.state !== 'not yet'
        ? say.text({ figures: check.figures, proofText: proofText(newest), author: newest.author, when: when(newest.at) })
        : check.how;
  return (
    <>
      <SheetRow
        label={checkName(check.id)}
        second={open && standing.state === 'not yet' ? undefined : second}
        mark={<ProofShape proof={shapeOf[standing.state]} />}
        inHand={open}
        onPress={onOpen}
        testID={`check-${check.id}`}
      />
      {standing.state === 'failed' && newest && !open && (
        <Finding severity="error" sentence={say.putItRightAndCheck({ checkName: checkName(check.id), proofText: proofText(newest) })} />
      )}
    </>
  );
}

interface OpenCheckProps {
  tag: string;
  item: CheckItem;
  before: string | null;
  entries: Entry[];
  /** what else is asked beside its figures */
  more: ReactNode;
  shortId: (entry: Entry) => string;
  judged: Judgement | null;
  /** what the drive's own reading is held against */
  contradiction: { lines: Survey['lineVoltages']; rectifier: Supply['rectifier'] };
  recording: ReturnType<typeof useRecordCheck>;
  next: { name: string; open: () => void } | undefined;
}

/** A check in hand: how it is done, its figures, what the link says of it, and what was seen. */
function OpenCheck({ tag, item: { check, standing }, before, entries, more, shortId, judged, contradiction, recording, next }: OpenCheckProps) {
  const first = powerChecks.find((c) => c.id === before);
  const live = useLive([tag])(tag);
  const against = contradictedBy(check.id, live, contradiction.lines, contradiction.rectifier);
  const answered = standing.state === 'passed';
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2">
      <View paddingLeft={52} paddingRight={14} paddingVertical={10} gap={6}>
        <Body>{check.how}</Body>
        {first && !answered && <Second color="$yellow">{say.beforeThisOne({ checkName: checkName(first.id).toLowerCase() })}</Second>}
      </View>
      {check.id === 'isolated' && !answered && <BusFalling live={live} />}
      {entries.map((e) => (
        <EntryRow key={e.id} entry={e} testID={`figure-${shortId(e)}`} />
      ))}
      {more}
      {judged && <Finding severity={judged.passed ? 'good' : 'error'} sentence={judged.sentence} />}
      {against && !answered && <Finding severity="error" sentence={against} />}
      {recording.error && recording.of === check.id && <Finding severity="error" sentence={recording.error.message} />}
      {answered ? (
        <>
          {next && <ActRow text={say.next({ name: next.name })} onPress={next.open} testID="next-check" />}
          <ActRow text={say.undoThisCheck} onPress={() => recording.takeBack(check)} testID={`undo-${check.id}`} />
        </>
      ) : (
        <View flexDirection="row">
          {check.figures ? (
            <Act
              text={say.recordTheReading}
              filled
              disabled={!judged || (judged.passed && against !== null)}
              onPress={() => judged && recording.record(check, judged.passed, judged)}
              testID={`record-${check.id}`}
            />
          ) : (
            <>
              <Act text={say.notOk} onPress={() => recording.record(check, false, null)} testID={`fail-${check.id}`} />
              <Act text={say.ok} filled disabled={against !== null} onPress={() => recording.record(check, true, null)} testID={`pass-${check.id}`} />
            </>
          )}
        </View>
      )}
      {(standing.state === 'failed' || standing.state === 'stale') && (
        <ActRow text={say.undoThisCheck} onPress={() => recording.takeBack(check)} testID={`undo-${check.id}`} />
      )}
    </View>
  );
}

/** How the DC bus empties, as the drive tells it while its electronics still live. */
function BusFalling({ live }: { live: LiveSample | undefined }) {
  const fall = useBusFall(live);
  if (live?.link !== 'up') return <Note>{fall.last === null ? say.theDriveDoesNotAnswer : say.theDriveNoLongerAnswers({ last: fall.last })}</Note>;
  return (
    <SheetRow
      label={say.dcBus}
      second={fall.seconds === null ? say.mustBeBelowVIt({ deadBus }) : say.fallingBelowVInAbout({ deadBus, seconds: fall.seconds })}
      figure={formatFigure(live.busVoltage, 0)}
      unit="V"
      testID="bus-falling"
    />
  );
}

function Act({
  text,
  onPress,
  filled = false,
  disabled = false,
  testID,
}: {
  text: string;
  onPress: () => void;
  filled?: boolean;
  disabled?: boolean;
  testID: string;
}) {
  return (
    <Pressable role="button" onPress={onPress} disabled={disabled} aria-disabled={disabled} testID={testID} style={{ flex: 1 }}>
      <View
        minHeight={56}
        alignItems="center"
        justifyContent="center"
        borderTopWidth={1}
        borderColor="$rule2"
        backgroundColor={filled && !disabled ? '$plumFill' : 'transparent'}
      >
        <Strong color={disabled ? '$soft' : filled ? '$onPlum' : '$plum'}>{text}</Strong>
      </View>
    </Pressable>
  );
}

/** The checks before the supply is switched on, in the safe order, each with its proof. */
export const BeforePowerScreen = machineScreen(PowerSheet);
