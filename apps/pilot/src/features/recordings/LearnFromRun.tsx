import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import type { RecordingData } from '@yare/contract';
import { formatFigure, tellsLittle, toldSpread } from '@yare/core';
import { learnedRows, useKeepLearned, useLearn } from '../../data/learn';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Strong } from '../../ui/text';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';

/** What a recorded run tells about the machine, with how sure each value is, to be kept for every look-ahead from then on. */
export function LearnFromRun({ model, recording }: { model: MachineModel; recording: RecordingData }) {
  const { tag, learned } = model.machine;
  const learn = useLearn(model);
  const keep = useKeepLearned(tag);
  const kept = learned?.values && learned.recordingId === recording.meta.id;
  const result = learn.data;
  return (
    <>
      <SectionHead right={kept ? 'in use' : undefined}>Fit the model to this run</SectionHead>
      {!result && (
        <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
          <View width={42} borderRightWidth={1} borderColor="$plum" />
          <Pressable
            role="button"
            testID="learn"
            disabled={learn.isPending}
            onPress={() => learn.mutate(recording)}
            style={{ minHeight: 56, justifyContent: 'center', paddingHorizontal: 10 }}
          >
            <Strong color={learn.isPending ? '$soft' : '$plum'}>
              {learn.isPending ? 'Fitting… a few seconds' : 'Find inertia, friction and motor values'}
            </Strong>
          </Pressable>
        </View>
      )}
      {learn.error && <Finding severity="error" sentence="The fit failed. The recording is unchanged; try another run." />}
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
            {`Difference left between model and recording: ${formatFigure(result.left.current, 2)} A, ${formatFigure(result.left.busVoltage, 1)} V, ${formatFigure(result.left.torque, 1)} % torque.`}
          </Note>
          {tellsLittle(result.inertia) && (
            <Note>
              {`This run tells the inertia to ±\u00a0${formatFigure(toldSpread((100 * result.inertia.spread) / result.inertia.value), 0)}\u00a0% only. Use it, set the stop that Motion offers then, and fit the model to a run with that: the bands under Motion are those of such a run.`}
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
                keep.mutate({ recordingId: recording.meta.id, values: result.learned as Record<string, { times: number; spread: number }> })
              }
            />
          )}
        </>
      )}
    </>
  );
}
