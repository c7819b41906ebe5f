import { changedSinceRun, type MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import type { RecordingData } from '@yare/contract';
import { formatFigure, tellsLittle, toldSpread } from '@yare/core';
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
      <SectionHead right={kept ? 'in use' : undefined}>Fit the model to this run</SectionHead>
      {changed.length > 0 && (
        <Finding
          severity="warning"
          sentence={`${namesOf(changed)} changed in the drive after this run. The fit takes the drive as it is now: make another run.`}
        />
      )}
      {!result?.ok && (
        <FitRow
          testID="learn"
          text="Find inertia, friction and motor values"
          {...(earlier !== null && { second: `from this run and recording ${earlier} together: the model in use was fitted to that` })}
          pending={learn.isPending}
          onPress={() => learn.mutate({ recording, also: earlier })}
        />
      )}
      {!result?.ok && !learn.isPending && earlier !== null && (
        <FitRow
          testID="learn-alone"
          text="Find them from this run alone"
          second="after a change of motor or load"
          onPress={() => learn.mutate({ recording, also: null })}
        />
      )}
      {learn.error && (
        <Finding
          severity="error"
          sentence={
            also === null
              ? 'The fit failed. The recording is unchanged; try another run.'
              : `The fit to both failed: ${learn.error.message} The recordings are unchanged.`
          }
        />
      )}
      {result && !result.ok && <Finding severity="warning" sentence={result.sentence} />}
      {result?.ok && (
        <>
          <SheetRow
            label="Total inertia"
            second={`motor and load at the shaft, ± ${formatFigure(toldSpread(result.inertia.spread), 4)} kg·m²`}
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
                second={`of the estimate, ± ${formatFigure(r.spread, 1)} %`}
                figure={formatFigure(r.percent, 1)}
                unit="%"
                mark="M"
              />
            ))}
          <Note>
            {`Difference left between model and ${also === null ? 'recording' : `recordings ${also} and ${id}`}: ${formatFigure(result.left.current, 2)} A, ${formatFigure(result.left.busVoltage, 1)} V, ${formatFigure(result.left.torque, 1)} % torque.`}
          </Note>
          {tellsLittle(result.inertia) && (
            <Note>
              {`${also === null ? 'This run tells' : 'Both runs together tell'} the inertia to ±\u00a0${formatFigure(toldSpread((100 * result.inertia.spread) / result.inertia.value), 0)}\u00a0% only. Use it, make a run with the stop that Motion offers then, and fit the model to that one too: the bands under Motion are those of such runs.`}
            </Note>
          )}
          <Refusal of={keep.error} />
          {keep.isSuccess ? (
            <Finding
              severity="good"
              sentence="Kept: every look-ahead of this machine uses the fitted model from now on."
              {...(tellsLittle(result.inertia) && { act: 'Go to Motion', onAct: () => go(`/m/${tag}/motion`) })}
            />
          ) : (
            <Finding
              severity="act"
              sentence="Use these values in every look-ahead of this machine?"
              act="Use the fitted model"
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
        <Strong color={pending ? '$soft' : '$plum'}>{pending ? 'Fitting… a few seconds' : text}</Strong>
        {second && !pending && <Second>{second}</Second>}
      </Pressable>
    </View>
  );
}
