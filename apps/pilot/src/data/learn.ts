import { useMutation } from '@tanstack/react-query';
import type { Setting } from '@yare/books';
import { changedSinceRun, type MachineModel } from '@yare/commissioning';
import type { LearnedEdit, LearnedRevision, RecordingData } from '@yare/contract';
import {
  isMeasured,
  learnable,
  stampedPower,
  toldSpread,
  toSi,
  type DriveRecord,
  type Learnable,
  type Learned,
  type LearnOptions,
  type LearnResult,
} from '@yare/core';
import { say } from '@yare/words/pages/data';
import { api } from './api';
import { authorNow } from './device';
import { learnInWorker } from './lookAhead';
import { keys, queryClient } from './client';
import { recorded } from './recordings';

/** Pa for 0 and 100 % of the pressure sensor; null where none is wired. */
function pressureRange(model: MachineModel): { low: number; span: number } | null {
  const { driven } = model.machine;
  const sensor = 'sensor' in driven ? driven.sensor : null;
  if (sensor?.measures !== 'pressure') return null;
  const low = toSi(sensor.low, sensor.unit);
  return { low, span: toSi(sensor.high, sensor.unit) - low };
}

/** A recording as the core takes it. */
export function driveRecord(model: MachineModel, { time, data }: RecordingData): DriveRecord {
  const range = pressureRange(model);
  const feedback = data.feedback;
  return {
    time,
    frequency: data.outputFrequency ?? [],
    current: data.motorCurrent ?? [],
    busVoltage: data.busVoltage ?? [],
    torque: data.torque ?? [],
    ...(range && feedback && { process: feedback.map((x) => range.low + (x / 100) * range.span) }),
  };
}

function learnOptions(model: MachineModel): LearnOptions {
  const { plate } = model;
  const settings = model.held ?? model.drafted.with({});
  const { live, readOutLag } = settings.book.words;
  const range = pressureRange(model);
  return {
    // the percent a drive tells are of the motor it was told
    ratedPower: settings.role('motorPower') ?? stampedPower(plate),
    ratedSpeed: settings.roleValue('motorSpeed'),
    readOutLag,
    processLag: settings.roleValue('analogueFilter'),
    currentStep: settings.countOf(live.motorCurrent),
    voltageStep: live.busVoltage.step,
    ...(range && { processRange: range.span }),
  };
}

const list = new Intl.ListFormat('en', { type: 'conjunction' });
/** Settings by name, as they are said. */
export const namesOf = (settings: readonly Setting[]): string => list.format(settings.map((s) => s.name));

/** Learns from a recording, and an earlier one together with it where that is named, in the worker; nothing is kept by it. */
export const useLearn = (model: MachineModel) =>
  useMutation({
    // a fit needs no server, and a run that cannot be fetched is told at once
    networkMode: 'always',
    mutationFn: async ({ recording, also }: { recording: RecordingData; also: number | null }): Promise<LearnResult> => {
      if (!model.inDriveEstimate) return { ok: false, sentence: say.theDriveWasNotRead };
      const options = learnOptions(model);
      if (also === null) return learnInWorker(model.inDriveEstimate, [driveRecord(model, recording)], options);
      const earlier = await queryClient.fetchQuery({ queryKey: keys.recording(also), queryFn: () => recorded(also), networkMode: 'always' });
      const changed = changedSinceRun(model, earlier.meta.startedAt);
      if (changed.length > 0)
        return {
          ok: false,
          sentence: say.recordingWasMadeBeforeChanged({ also, namesOf: namesOf(changed) }),
        };
      const records = [earlier, recording].map((r) => driveRecord(model, r));
      return learnInWorker(model.inDriveEstimate, records, options);
    },
  });

/** Keeps what was learned for every look-ahead from now on, or puts it aside (`values` null). */
export const useKeepLearned = (tag: string) =>
  useMutation({
    mutationFn: (edit: Omit<LearnedEdit, 'author'>) =>
      api<LearnedRevision>(`/machines/${tag}/learned`, { method: 'PUT', body: { ...edit, author: authorNow() } }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: keys.machine(tag) }),
  });

const text: Partial<Record<Learnable, string>> = {
  inertia: say.totalInertia,
  loadTorque: say.loadTorque,
  friction: say.friction,
  magnetising: say.magnetisingReactance,
  leakage: say.leakageReactance,
  statorResistance: say.statorResistance,
  rotorResistance: say.rotorResistance,
  supply: say.supply,
  noFlowPower: say.powerWithNoFlow,
  runOutPower: say.powerPastItsBestFlow,
  processHead: say.headOrPressureCurve,
  processDemand: say.demand,
};

export interface LearnedRow {
  key: Learnable;
  label: string;
  /** % of the estimate, and the ± that is told of it */
  percent: number;
  spread: number;
}

/** What was learned as lines, what matters most first; values the record could not see (as wide as before) are left out. */
export const learnedRows = (learned: Learned): LearnedRow[] =>
  learnable.flatMap((key) => {
    const value = learned[key];
    const label = text[key];
    return value && label && isMeasured(key, value)
      ? [{ key, label, percent: 100 * value.times, spread: toldSpread(100 * value.times * value.spread) }]
      : [];
  });
