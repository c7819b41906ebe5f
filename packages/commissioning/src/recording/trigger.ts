import type { RecorderTrigger } from '@yare/contract';
import { say } from '@yare/words/recording';
import { linkChannel, type LinkChannel } from './channels';

/** What a trigger looks at. */
export type TriggerSample = Record<LinkChannel, number> & { state: string };

/** NaN, which reaches no level and crosses none, of a channel the link does not tell or while it is gone. */
const valueIn = (s: TriggerSample, channel: string): number => {
  const found = linkChannel(channel);
  return found && s.state !== 'no link' ? s[found.key] : NaN;
};

/**
 * Whether an armed recorder begins with this sample. A level is reached or not; an edge must be gone through; a state must be come to, and
 * a trip counts as soon as the drive tells of it.
 * @param before the sample before it; null with the first after it was armed
 */
export function fires(t: RecorderTrigger, before: TriggerSample | null, now: TriggerSample): boolean {
  switch (t.kind) {
    case 'now':
      return true;
    case 'trip':
      return before !== null && now.state === 'tripped' && before.state !== 'tripped';
    case 'state':
      return before !== null && now.state === t.state && before.state !== t.state;
    case 'level': {
      const value = valueIn(now, t.channel);
      return t.side === 'above' ? value >= t.value : value <= t.value;
    }
    case 'edge': {
      if (before === null) return false;
      const [from, to] = [valueIn(before, t.channel), valueIn(now, t.channel)];
      const rises = from < t.value && to >= t.value;
      const falls = from > t.value && to <= t.value;
      return t.way === 'rising' ? rises : t.way === 'falling' ? falls : rises || falls;
    }
  }
}

const states: Record<Extract<RecorderTrigger, { kind: 'state' }>['state'], string> = {
  ready: say.itIsReady,
  running: say.itRuns,
  stopping: say.itBeginsToStop,
  asleep: say.itFallsAsleep,
  held: say.itIsHeld,
};

/** A trigger in words: what comes after "Recording begins when". */
export function triggerText(t: RecorderTrigger): string {
  if (t.kind === 'now') return say.itIsArmed;
  if (t.kind === 'trip') return say.theDriveTrips;
  if (t.kind === 'state') return states[t.state];
  const channel = linkChannel(t.channel);
  const level = `${t.value}\u00a0${channel?.unit ?? ''}`.trim();
  const name = channel?.name ?? t.channel;
  if (t.kind === 'level') return say.isOrMore({ name, level, side: t.side });
  return say.risesThrough({ name, way: t.way, level });
}
