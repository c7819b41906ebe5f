import { setTimeout } from 'node:timers/promises';
import type { FastifyBaseLogger } from 'fastify';
import type { GuidedRun } from '@yare/commissioning';
import { runChannels } from '@yare/commissioning/recording';
import { steadyNow } from '../clock';
import type { Claims } from '../claims';
import type { Db } from '../db/connect';
import type { DatabaseWatch } from '../db/watch';
import { fastEvery, type Fleet } from '../link/fleet';
import { lockOf } from '../lock/locks';
import { audit } from '../audit/audit';
import { machineByTag } from '../machines/machines';
import type { Space } from '../space';
import { HoldToRun } from '../runs/holdToRun';
import { RunEnded, type HoldTiming, type Run, type RunPhase } from '../runs/run';
import { Recorder } from './recorder';

export interface RecordedRunsOptions {
  db: Db;
  /** tells when the database goes; without it that is noticed only when something is stored */
  watch?: DatabaseWatch;
  fleet: Fleet;
  claims: Claims;
  space: Space;
  log: FastifyBaseLogger;
  /** told of every phase, beside the recorder */
  told(run: Run, phase: RunPhase): void;
  timing?: HoldTiming;
}

/** The last samples of runs that have just ended are worth this wait when the server stops, ms. */
const longestClosing = 2000;

const marks: Record<RunPhase, string> = { taken: 'Command taken', running: 'Start', stopping: 'Let go', ended: 'Command given back' };

/** What a phase is called in the record. */
function markOf(run: Run, phase: RunPhase): string {
  if (phase === 'stopping' && run.cause !== 'let go') return `Stop: ${run.reason}`;
  if (phase === 'ended' && run.cause === 'link lost') return `End: ${run.reason}`;
  return marks[phase];
}

/** What a led run has just come to. */
function ledMark({ progress: { state, points, guide } }: GuidedRun): string {
  const last = points[points.length - 1];
  if (guide.kind === 'speeds' && last) return `stands at ${last.frequency} Hz`;
  return state === 'stepped' ? 'stepped' : state === 'back' ? 'stepped back' : 'stands';
}

const ledTitle = ({ frequency }: Run, { progress: { guide } }: GuidedRun): string =>
  guide.kind === 'speeds' ? `Steady speeds, ${guide.speeds.length} of them` : `Step test at ${frequency} Hz`;

const titleOf = (run: Run): string =>
  run.tune ? `Tune, ${run.tune.kind}` : run.guided ? ledTitle(run, run.guided) : `Hold to run at ${run.frequency} Hz`;
const lost = 'the server lost its database, so the run could no longer be recorded; what was recorded until then is kept';

/** Hold to run with a recording of every run, from command taken until it is given back. */
export function recordedRuns({ db, watch, fleet, claims, space, log, told, timing }: RecordedRunsOptions) {
  const recorders = new Map<string, Recorder>();
  /** records that are being closed */
  const closing = new Set<Recorder>();
  const cares = new Map<number, () => void>();
  /** runs whose record is being begun, and those of them that have ended meanwhile */
  const beginning = new Set<number>();
  const over = new Set<number>();
  fleet.onSample((s) => recorders.get(s.tag)?.add(s));

  const began = async (run: Run): Promise<void> => {
    beginning.add(run.id);
    try {
      await beginRecord(run);
    } finally {
      beginning.delete(run.id);
      over.delete(run.id);
    }
  };

  const beginRecord = async (run: Run): Promise<void> => {
    // asked at each press: a session that ended unheard holds no lock, and another server may
    if (watch && !(await watch.confirm()))
      throw new RunEnded('database', 'the database does not answer, so nothing could be recorded; nothing was started');
    if (watch) cares.set(run.id, watch.care());
    const full = await space.full();
    if (full) throw new RunEnded('fault', `${full} Nothing was started`);
    const m = await machineByTag(db, run.tag);
    if (run.tune && (await lockOf(db, m.id)))
      throw new RunEnded('locked', `the settings of ${run.tag} are locked, and measuring would change some; nothing was started`);
    const recorder = await Recorder.begin(db, {
      ...{
        machineId: m.id,
        kind: 'run' as const,
        title: titleOf(run),
        author: run.author,
        channels: runChannels,
        startedAt: steadyNow(),
        every: fastEvery,
      },
    });
    if (over.has(run.id)) {
      // a database that took its time: nobody waits for this record any more
      void recorder.end().catch((err: unknown) => log.error({ err, recording: recorder.id }, 'a recording could not be closed'));
      return;
    }
    run.recordingId = recorder.id;
    recorders.set(run.tag, recorder);
    await audit(
      db,
      run.author,
      run.tune ? `tune ${run.tune.kind}` : run.guided ? (run.guided.progress.guide.kind === 'speeds' ? 'steady speeds' : 'step test') : 'hold to run',
      run.tag,
      {
        frequency: run.frequency,
        ...(run.guided && { guide: run.guided.progress.guide }),
        recording: recorder.id,
      },
    );
  };

  const close = (run: Run, recorder: Recorder): void => {
    recorders.delete(run.tag);
    closing.add(recorder);
    recorder
      .end()
      .then(() => told(run, 'ended'))
      .catch((err: unknown) => log.error({ err, recording: recorder.id }, 'a recording could not be closed'))
      .finally(() => closing.delete(recorder));
  };

  const phase = (run: Run, phase: RunPhase): void => {
    told(run, phase);
    if (phase === 'ended') {
      cares.get(run.id)?.();
      cares.delete(run.id);
    }
    const recorder = recorders.get(run.tag);
    if (phase === 'ended' && beginning.has(run.id)) over.add(run.id);
    // progress of a measurement is told to the page and is no mark
    if (!recorder || (phase === 'running' && run.tune && run.tune.progress > 0)) return;
    if (phase === 'running' && run.guided && run.guided.hasBegun) return recorder.mark(ledMark(run.guided));
    recorder.mark(markOf(run, phase).slice(0, 80));
    if (phase === 'ended') close(run, recorder);
  };

  const holdToRun = new HoldToRun(
    fleet,
    claims,
    { began, phase, recordLost: () => (watch?.away ? lost : null), fault: (run, err) => log.error({ err, tag: run.tag }, 'run') },
    timing,
  );
  watch?.onLost(() => holdToRun.letGoOfAll('database', lost));
  return {
    holdToRun,
    /** Ends every run, then closes their records as far as the database lets it. */
    async stop(): Promise<void> {
      await holdToRun.stop();
      for (const r of closing) r.giveUp();
      const until = performance.now() + longestClosing;
      while (closing.size > 0 && performance.now() < until) await setTimeout(20);
    },
  };
}
