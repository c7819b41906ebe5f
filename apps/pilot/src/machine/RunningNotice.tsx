import { decode, whatStops, type MachineModel } from '@yare/commissioning';
import { useMutation } from '@tanstack/react-query';
import type { LiveSample } from '@yare/contract';
import { say } from '@yare/words/pages/frame';
import { send } from '../data/client';
import { live, useLiveValue, useRun } from '../data/live';
import { Refusal } from '../ui/Answer';
import { Finding, Note } from '../ui/sheet';

/** Ways to stop it that are said; the rest stands on Command. */
const most = 3;

/** What stops a machine that its panel runs, in a sentence. */
function stopText({ machine: { tag }, held }: MachineModel, sample: LiveSample | undefined): string {
  const stops = held && sample ? whatStops(held, decode(held, sample)) : [];
  const ways = stops.slice(0, most).map((way) => `${way.charAt(0).toLowerCase()}${way.slice(1)}`);
  return ways.length > 0 ? say.runsByItsPanelWhat({ tag, ways: ways.join(', or ') }) : say.runsByItsPanelAnd({ tag });
}

/** At the head of every page of a machine that turns by somebody else: what stops it, and a stop from here where it is held from here. */
export function RunningNotice({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const run = useRun(tag);
  const turning = useLiveValue(tag, (s) => s?.link === 'up' && s.state === 'running');
  const holder = useLiveValue(tag, (s) => s?.holder);
  const who = useLiveValue(tag, (s) => s?.command);
  const words = useLiveValue(tag, (s) => (s ? `${s.words.startedBy} ${s.words.inputs} ${s.words.mode}` : ''));
  const stop = useMutation({ mutationFn: () => send<LiveSample>('POST', `/machines/${tag}/stop`) });
  const mine = run !== undefined && run.mine && run.phase !== 'ended' && run.phase !== 'refused';
  if (!turning || mine) return null;
  if (holder !== 'here') return <Note key={words}>{stopText(model, live.samples.get(tag))}</Note>;
  return (
    <>
      <Refusal of={stop.error} />
      <Finding severity="warning" sentence={say.isTurnedFromAnotherDevice({ tag, who })} act={say.stopItNow} onAct={() => stop.mutate()} />
    </>
  );
}
