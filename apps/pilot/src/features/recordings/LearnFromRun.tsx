import { changedSinceRun, type MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import type { RecordingData } from '@yare/contract';
import { formatFigure, tellsLittle, toldSpread } from '@yare/core';
import { say } from '@yare/words/pages/recordings';
import { learnedRows, namesOf, useKeepLearned, useLearn } from '../../data/learn';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Second, Strong } from '../../ui/text';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';

/** What a recorded run tells about the machine, with how sure each value is, to be kept for every look-ahead from then on. */
export function LearnFromRun({ model, recording }: { model: MachineModel; recording: RecordingData }) {
  const { tag, learned } = model.machine;
  const learn = useLearn(model);
  const keep = useKeepLearned(tag);
  const { id } = recording.meta;
  const kept = Boolean(learned?.values) && [learned?.recordingId, learned?.alsoRecordingId].includes(id);
  const changed = changedSinceRun(model, recording.meta.startedAt);
  // a run from before the drive was told other figures goes together with none after it
  const earlier = learned?.values && !kept && changed.length === 0 ? learned.recordingId : null;
  const result = learn.data;
  // what the fit on the sheet was made from
  const also = learn.variables?.also ?? null;
  return (
    <>
      <SectionHead right={kept ? say.inUse : undefined}>{say.fitTheModelToThis}</SectionHead>
      {changed.length > 0 && <Finding severity="warning" sentence={say.changedInTheDriveAfter({ namesOf: namesOf(changed) })} />}
      {!result?.ok && (
        <FitRow
          testID="learn"
          text={say.findInertiaFrictionAndMotor}
          {...(earlier !== null && { second: say.fromThisRunAndRecording({ earlier }) })}
          pending={learn.isPending}
          onPress={() => learn.mutate({ recording, also: earlier })}
        />
      )}
      {!result?.ok && !learn.isPending && earlier !== null && (
        <FitRow
          testID="learn-alone"
          text={say.findThemFromThisRun}
          second={say.afterAChangeOfMotor}
          onPress={() => learn.mutate({ recording, also: null })}
        />
      )}
      {learn.error && (
        <Finding
          severity="error"
          sentence={also === null ? say.theFitFailedTheRecording : say.theFitToBothFailed({ message: learn.error.message })}
        />
      )}
      {result && !result.ok && <Finding severity="warning" sentence={result.sentence} />}
      {result?.ok && (
        <>
          <SheetRow
            label={say.totalInertia}
            second={say.motorAndLoadAtThe({ toldSpread: toldSpread(result.inertia.spread) })}
            figure={formatFigure(result.inertia.value, 4)}
            unit="kg·m²"
            {...(result.inertia.measured && { mark: 'M' as const })}
            testID="learned-inertia"
          />
          {learnedRows(result.learned)
            .filter((r) => r.key !== 'inertia')
            .map((r) => (
              <SheetRow
                key={r.key}
                label={r.label}
                second={say.ofTheEstimate({ spread: r.spread })}
                figure={formatFigure(r.percent, 1)}
                unit="%"
                mark="M"
              />
            ))}
          <Note>
            {say.differenceLeftBetweenModelAnd({
              also,
              id,
              current: result.left.current,
              busVoltage: result.left.busVoltage,
              torque: result.left.torque,
            })}
          </Note>
          {tellsLittle(result.inertia) && (
            <Note>{say.thisRunTellsTheInertia({ also, toldSpread: toldSpread((100 * result.inertia.spread) / result.inertia.value) })}</Note>
          )}
          <Refusal of={keep.error} />
          {keep.isSuccess ? (
            <Finding
              severity="good"
              sentence={say.keptEveryLookAheadOf}
              {...(tellsLittle(result.inertia) && { act: say.goToMotion, onAct: () => go(`/m/${tag}/motion`) })}
            />
          ) : (
            <Finding
              severity="act"
              sentence={say.useTheseValuesInEvery}
              act={say.useTheFittedModel}
              onAct={() =>
                keep.mutate({
                  recordingId: id,
                  alsoRecordingId: also,
                  values: result.learned as Record<string, { times: number; spread: number }>,
                })
              }
            />
          )}
        </>
      )}
    </>
  );
}

/** A line that is touched to begin a fit; while one is made it says so and does nothing. */
function FitRow({
  testID,
  text,
  second,
  pending = false,
  onPress,
}: {
  testID: string;
  text: string;
  second?: string;
  pending?: boolean;
  onPress: () => void;
}) {
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
      <View width={42} borderRightWidth={1} borderColor="$plum" />
      <Pressable
        role="button"
        testID={testID}
        disabled={pending}
        onPress={onPress}
        style={{ flex: 1, minHeight: 56, justifyContent: 'center', paddingHorizontal: 10, paddingVertical: 6 }}
      >
        <Strong color={pending ? '$soft' : '$plum'}>{pending ? say.fittingAFewSeconds : text}</Strong>
        {second && !pending && <Second>{second}</Second>}
      </Pressable>
    </View>
  );
}
