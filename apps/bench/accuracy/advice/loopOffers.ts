import { bumpless, random, restingPid, stepPid, type Random } from '@yare/core';
import { swingingOf, type LoopRecord, type PidGains } from '@yare/core/loop';
import { judgeLoop } from '../loops/judge';
import { advance, atRest, drawProcess, dt, madeBy, sense, trueSensitivity, type TrueProcess } from '../loops/process';
import { lived, type AdviceSeen } from './offer';

/** Largest sensitivity a loop may come to at the ends of its range. */
const allowed = 2.5;

/** The values that are recommended after a step test. */
export function tuningOffers(seed: number, n: number): AdviceSeen {
  const { straightened, kind } = judgeLoop(seed, n);
  if (!straightened) return lived([]);
  const { stable, sensitivity } = straightened;
  return lived([
    {
      by: 'loop',
      id: 'recommended values',
      tag: kind,
      cured: stable && sensitivity <= allowed,
      harm: stable ? null : 'swings without end',
      held: [],
    },
  ]);
}

/** s of a record, and between its samples. */
const record = { lasts: 400, every: 0.2 };

/** A loop on its true process behind the drive's ramp, % of output a second, with taps opened at the start. */
function held(p: TrueProcess, at: number, g: PidGains, ramp: number, r: Random): LoopRecord {
  const state = atRest(p, at);
  const setpoint = madeBy(p, at);
  const s = {
    ...{ proportionalGain: g.gain, integralTime: g.integralTime, derivativeTime: g.derivativeTime, setpointWeight: 1 },
    ...{ reverse: false, outputLow: 0, outputHigh: 100 },
  };
  const pid = restingPid(setpoint);
  bumpless(pid, s, setpoint, setpoint, at);
  const out = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  let [value, given, next] = [setpoint, at, 0];
  for (let i = 0; i < record.lasts / dt; i++) {
    const told = sense(state, p, value, r);
    const asked = stepPid(pid, s, setpoint, told, dt);
    given += Math.max(-ramp * dt, Math.min(ramp * dt, asked - given));
    value = advance(state, p, given, i * dt < 20 ? 1.25 : 1);
    if (i * dt < next) continue;
    out.time.push(i * dt);
    out.output.push(given);
    out.feedback.push(told);
    next += record.every;
  }
  return out;
}

/** A loop held too firmly, by its own gain or for its ramp: the values that are offered against its swing, taken. */
export function swingOffers(seed: number, n: number): AdviceSeen {
  const r = random(seed * 32_416_190 + n * 7919);
  const p = drawProcess(r, n % 2 === 0 ? 'pump' : 'fan');
  const at = 70;
  const late = p.deadTime + p.second + p.sensor.lag;
  const ramp = r.uniform() < 0.5 ? 1 + 3 * r.uniform() : 20;
  // a gain is looked for at which the process itself would just swing, and one a little firmer is set
  const integralTime = 2 * (p.lag + late);
  let gain = 0.1;
  while (gain < 500 && trueSensitivity(p, at, { gain, integralTime, derivativeTime: 0 }).stable) gain *= 1.15;
  const now: PidGains = { gain: gain * (1 + r.uniform()), integralTime, derivativeTime: 0 };
  const seen = swingingOf(held(p, at, now, ramp, r), now, ramp);
  if (!seen?.cure) return lived([]);
  const after = swingingOf(held(p, at, seen.cure, ramp, r), seen.cure, ramp);
  return lived([
    {
      by: 'swinging',
      id: seen.cause,
      tag: p.kind,
      cured: after === null,
      harm: after && after.feedback > 1.2 * seen.feedback ? 'swings more' : null,
      held: [],
    },
  ]);
}
