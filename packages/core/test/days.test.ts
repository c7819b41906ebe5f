import { holdingFrequency, plainSetpoint, startsAllowed, StationKind, type StationSettings, nth } from '../src';
import { restingStation, stepStation, type StationMember } from '../src/controls/firmware';
import { drawnShown, mostPerHour, shutOffShown, sleepAhead, sleepDay, stationRamp, stationYear, type DayPlan } from '../src/days';
import { present } from '../src/present';
import { machine } from './specs';

const pid = { derivativeTime: 0, setpointWeight: 1, reverse: false, outputLow: 0, outputHigh: 100 };
const never = { frequency: 0, delay: 20, wakeFall: 4, wakeDelay: 2, boost: 0, boostTime: 0, leastRun: 0, leastRest: 0 };
const spec = machine({ minimumFrequency: 20, accelerationTime: 5, decelerationTime: 5 });
const pump = (() => {
  if (spec.load.kind !== 'pump') throw new Error('the demo pump is a pump');
  return spec.load;
})();
const set = 3.5e5;
const plan = (share: (hour: number) => number, sleep: Partial<DayPlan['process']['sleep']> = {}): DayPlan => ({
  sensor: { measures: 'pressure', low: 0, high: 1e6 },
  process: {
    setpoint: plainSetpoint(35),
    ...{ filter: 0, straight: null },
    pid: { ...pid, proportionalGain: 1.2, integralTime: 3 },
    sleep: { ...never, frequency: holdingFrequency(spec, pump, set, 0.15 * pump.bestFlow), ...sleep },
  },
  demand: Array.from({ length: 96 }, (_, i) => share(i / 4) * pump.bestFlow),
});

describe('a day of sleep', () => {
  test('asleep at night, awake by day, the pressure kept, cheaper than never to sleep', () => {
    const ahead = sleepAhead(
      spec,
      plan((h) => (h < 6 || h >= 22 ? 0 : 0.5)),
      7500,
    );
    const { day } = ahead;
    expect(day.asleepHours).toBeGreaterThan(7);
    expect(day.asleepHours).toBeLessThan(9);
    expect(day.wakesPerHour).toBeLessThan(8);
    const noon = present(day.feedback[12 * 60]);
    expect(noon / set).toBeGreaterThan(0.97);
    expect(noon / set).toBeLessThan(1.03);
    expect(ahead.hunts).toBe(false);
    expect(ahead.awake).toBeGreaterThan(1.02 * day.energy);
  });

  // emptying of a vessel: t = C Δp / q̄, whatever the pump does
  test('between two wakes at a leak the vessel empties by its own law', () => {
    const leak = 0.004;
    const day = sleepDay(spec, { ...plan(() => leak, { wakeFall: 6, delay: 30 }), shown: { compliance: 4e-7 } });
    const fall = 0.06 * 1e6;
    const mean = leak * pump.bestFlow * Math.sqrt((set - fall / 2) / set);
    const empties = (4e-7 * fall) / mean;
    const gaps = day.wakes.slice(1).map((w, i) => (w - nth(day.wakes, i)) * 3600);
    expect(gaps.length).toBeGreaterThan(20);
    // what it runs in between, its delay at the least, comes on top
    for (const gap of gaps.slice(2)) expect(gap).toBeGreaterThan(empties);
    expect(Math.min(...gaps)).toBeLessThan(1.6 * empties + 60);
  });

  test('a wake level too near the set point hunts at a leak; the cure offered ends it and keeps the pressure', () => {
    const hunting = plan(() => 0.04, { frequency: 45, wakeFall: 0.5, delay: 5 });
    const ahead = sleepAhead(spec, hunting, 7500);
    expect(ahead.hunts).toBe(true);
    const cure = present(ahead.cure);
    expect(cure.wakesPerHour).toBeLessThanOrEqual(startsAllowed(7500));
    const after = sleepDay(spec, { ...hunting, process: { ...hunting.process, sleep: cure.sleep } });
    expect(after.wakesPerHour).toBe(cure.wakesPerHour);
    expect(after.lowest).toBeGreaterThan(0.7 * set);
    expect(sleepAhead(spec, hunting, 7500, []).cure).toBeNull();
  });

  test('a sump is emptied by level: it sleeps while nothing flows in', () => {
    const sump = { ...spec, load: { ...pump, sumpArea: 3, dryLevel: -1.5 } };
    const day = sleepDay(sump, {
      ...plan((h) => (h < 6 ? 0 : 0.4), { frequency: 22, wakeFall: 8 }),
      sensor: { measures: 'level', low: -1.5, high: 2.5 },
      process: {
        ...plan(() => 0).process,
        setpoint: plainSetpoint(37.5),
        pid: { ...pid, proportionalGain: 3, integralTime: 30, reverse: true },
        sleep: { ...never, frequency: 22, wakeFall: 8 },
      },
    });
    expect(day.asleepHours).toBeGreaterThan(5);
    expect(day.highest).toBeLessThan(0.6);
    expect(present(day.feedback[12 * 60])).toBeGreaterThan(-0.3);
    expect(() => sleepDay(spec, { ...plan(() => 0), sensor: { measures: 'level', low: 0, high: 1 } })).toThrow(RangeError);
  });

  // H0 ν² = static head + p/ρg: the speed at which the pump only just holds the pressure
  test('under the speed that just holds the set point it never comes, and so never sleeps', () => {
    const least = holdingFrequency(spec, pump, set);
    const nu = Math.sqrt((pump.staticHead + set / (998.2 * 9.80665)) / pump.shutOffHead);
    // between the field's own speed and that with the slip of full load
    expect(least).toBeGreaterThan(48.75 * nu);
    expect(least).toBeLessThan(50 * nu);
    const quiet = (frequency: number) =>
      sleepDay(
        spec,
        plan((h) => (h < 12 ? 0.3 : 0.02), { frequency }),
      ).asleepHours;
    expect(quiet(least - 0.5)).toBe(0);
    expect(quiet(holdingFrequency(spec, pump, set, 0.15 * pump.bestFlow))).toBeGreaterThan(1);
  });

  test('most in an hour is of any hour', () => {
    expect(mostPerHour([])).toBe(0);
    expect(mostPerHour([0.9, 1.1, 1.2, 3, 3.99, 4])).toBe(3);
    expect(mostPerHour([1, 2, 3])).toBe(1);
  });
});

const three: StationSettings = {
  ...{ kind: StationKind.sideBySide, number: 1, pumps: 3, most: 3, upFrequency: 48, upDelay: 20, downFrequency: 30, downDelay: 20 },
  ...{ alternate: 24, jockey: 0 },
};
const able = (hours: readonly number[]): StationMember[] => hours.map((h) => ({ able: true, hours: h }));
/** Steps a station for so many seconds at an output. */
function at(state = restingStation(), s: StationSettings, members: StationMember[], output: number, seconds: number, fixed = 0) {
  for (let t = 0; t < seconds; t++) stepStation(state, s, members, true, output, fixed, 1);
  return [...state.order];
}

describe('several pumps', () => {
  test('adds one after its delay at the top, takes one off at the bottom, and neither in between', () => {
    const state = restingStation();
    const members = able([5, 5, 5]);
    expect(at(state, three, members, 49, 19)).toEqual([1]);
    expect(at(state, three, members, 49, 3)).toEqual([1, 2]);
    expect(at(state, three, members, 40, 600)).toEqual([1, 2]);
    expect(at(state, three, members, 49, 22)).toEqual([1, 2, 3]);
    expect(at(state, three, members, 29, 22)).toHaveLength(2);
    expect(at(state, { ...three, most: 2 }, members, 50, 100)).toHaveLength(2);
  });

  test('the one with fewest hours leads once another is far enough ahead; while it runs they change places', () => {
    expect(at(restingStation(), three, able([100, 10, 50]), 40, 1)).toEqual([2]);
    const state = restingStation();
    state.lead = 1;
    expect(at(state, three, able([20, 10, 15]), 40, 1)).toEqual([1]);
    expect(at(state, three, able([40, 10, 15]), 40, 1)).toEqual([2]);
    expect(at(restingStation(), { ...three, alternate: 0 }, able([100, 10, 50]), 40, 1)).toEqual([1]);
  });

  test('one that trips or is in hand is replaced at once, and nothing runs when none is able', () => {
    const members = able([0, 0, 0]);
    const state = restingStation();
    expect(at(state, three, members, 49, 22)).toEqual([1, 2]);
    nth(members, 0).able = false;
    expect(at(state, three, members, 40, 1)).toEqual([2, 3]);
    nth(members, 1).able = false;
    expect(at(state, three, members, 40, 1)).toEqual([3]);
    nth(members, 2).able = false;
    expect(at(state, three, members, 40, 1)).toEqual([]);
  });

  test('a small pump runs alone while little is wanted, and gives way', () => {
    const small = { ...three, jockey: 3 };
    const state = restingStation();
    const members = able([0, 0, 0]);
    expect(at(state, small, members, 40, 10)).toEqual([3]);
    expect(at(state, small, members, 49, 22)).toEqual([1]);
    expect(at(state, small, members, 49, 22)).toEqual([1, 2]);
    expect(at(state, small, members, 29, 22)).toHaveLength(1);
    expect(at(state, small, members, 29, 22)).toEqual([3]);
  });

  test('the drive’s own pump beside contactors never stands while it is called', () => {
    const state = restingStation();
    expect(at(state, three, able([500, 0, 0]), 49, 22, 1)).toEqual([1, 2]);
    expect(at(state, three, able([500, 0, 0]), 29, 60, 1)).toEqual([1]);
  });
});

describe('a station ahead', () => {
  const sump = { ...spec, load: { ...pump, sumpArea: 6, dryLevel: -1.5 } };
  const station = {
    sensor: { measures: 'level' as const, low: -1.5, high: 2.5 },
    process: {
      ...plan(() => 0).process,
      setpoint: plainSetpoint(37.5),
      pid: { ...pid, proportionalGain: 4, integralTime: 60, reverse: true },
      sleep: never,
    },
    station: three,
  };
  const day = Array.from({ length: 24 }, (_, h) => (h < 6 ? 0.3 : 1.6) * pump.bestFlow);

  test('over a year what flows in is pumped, and hours come out even', () => {
    const year = stationYear(sump, { ...station, demand: day }, 60);
    const hours = year.hours.reduce((a, b) => a + b, 0);
    expect(hours).toBeGreaterThan(60 * 24 * 0.9);
    expect(Math.max(...year.hours) - Math.min(...year.hours)).toBeLessThan(60);
    expect(year.short).toBeLessThan(0.05 * 60 * 24);
    const fixed = stationYear(sump, { ...station, station: { ...three, alternate: 0 }, demand: day }, 60);
    expect(Math.max(...fixed.hours) - Math.min(...fixed.hours)).toBeGreaterThan(500);
  });

  // as many pumps as run at the top of a demand that comes and goes have started at least once each time
  test('every start is counted: so many days, so many at least', () => {
    const days = 60;
    const { starts, startsPerHour } = stationYear(sump, { ...station, demand: day }, days);
    expect(starts.reduce((a, n) => a + n, 0)).toBeGreaterThanOrEqual(days);
    const ramps = stationRamp(sump, station, 1.7 * pump.bestFlow);
    const seen = ramps.running.reduce(
      (n, bits, i) => n + [0, 1, 2].filter((k) => (bits >> k) & 1 && !(((ramps.running[i - 1] ?? 0) >> k) & 1)).length,
      0,
    );
    expect(ramps.count.starts.reduce((a, n) => a + n, 0)).toBeGreaterThanOrEqual(seen);
    expect(Math.max(...startsPerHour)).toBeLessThanOrEqual(Math.max(...starts));
  });

  test('on a ramp of demand pumps come and go, and one that trips is replaced', () => {
    const peak = 1.7 * pump.bestFlow;
    const ahead = stationRamp(sump, station, peak);
    const running = ahead.running.map((bits) => [0, 1, 2].filter((n) => (bits >> n) & 1).length);
    expect(Math.max(...running)).toBeGreaterThanOrEqual(2);
    expect(running[running.length - 1]).toBeLessThan(Math.max(...running));
    expect(ahead.count.short).toBeLessThan(0.1);
    const lost = stationRamp(sump, { ...station, lost: { number: 1, at: 1800 } }, peak);
    const after = lost.running[lost.time.findIndex((t) => t > 1805)] ?? 0;
    expect(after & 1).toBe(0);
    expect(after).toBeGreaterThan(0);
  });
});

describe('a pump that has been looked at', () => {
  // p = ρg (H₀ν² − static head): what the pump itself would make at those speeds against a shut valve
  const at = (frequency: number) => ({ frequency, pressure: 998.2 * 9.80665 * (1.05 * pump.shutOffHead * (frequency / 50) ** 2 - pump.staticHead) });
  const speeds = [36, 37.5, 39, 40.5, 42];

  test('a run against the shut valve shows its head, and speeds at which the check valve still held do not count', () => {
    const shown = present(shutOffShown(spec, pump, speeds.map(at), set));
    // said at the field's own speed here, at the rated one there; the slip against a shut valve is less than that of the plate
    const rated = (48.75 / 50) ** 2;
    expect(shown / (1.05 * pump.shutOffHead)).toBeGreaterThan(rated);
    expect(shown / (1.05 * pump.shutOffHead)).toBeLessThan(1);
    const left = speeds.map((f) => ({ frequency: f, pressure: Math.max(at(40).pressure, at(f).pressure) }));
    expect(present(shutOffShown(spec, pump, left.slice(1), set)) / shown).toBeCloseTo(1, 1);
    expect(
      shutOffShown(
        spec,
        pump,
        speeds.slice(0, 3).map((f) => ({ frequency: f, pressure: 2 * set })),
        set,
      ),
    ).toBeNull();
    expect(shutOffShown(spec, pump, [], set)).toBeNull();
  });

  test('a draw shows how fast the pressure goes, and the curve near no flow', () => {
    const flow = 0.1 * pump.bestFlow;
    const frequency = holdingFrequency(spec, { ...pump, valveFall: pump.valveFall + pump.headFall }, set, flow);
    const shown = drawnShown(spec, pump, { flow, frequency, pressure: set, falls: flow / 3e-7 });
    expect(present(shown.compliance)).toBeCloseTo(3e-7, 12);
    const times = (present(shown.valveFall) + pump.headFall) / (2 * pump.headFall + pump.valveFall);
    expect(Math.abs(times - 1)).toBeLessThan(0.1);
    // against what the shut valve showed, the draw counts
    const other = drawnShown(spec, pump, { flow, frequency: frequency - 2, pressure: set, falls: 0 });
    expect(present(other.shutOffHead)).toBeGreaterThan(pump.shutOffHead);
    expect(other.compliance).toBeUndefined();
  });
});
