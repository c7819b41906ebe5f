import {
  analogueSpeed,
  liveZeroLost,
  shareOf,
  signalAt,
  AnalogueSignal,
  LiveZeroAction,
  SpeedSource,
  StartSource,
  SwitchOver,
  InputJob as Job,
} from '../src';
import { awake, contacts, drive, settings } from './commandDrive';

describe('who has the speed', () => {
  const run = (bits: number[]) => contacts(1, 0, ...bits, 1, 1);
  test('a preset wins over the knob and says so; its minus sign is reverse', () => {
    const r = awake(settings())(run([1, 0]));
    expect(r).toMatchObject({ speed: 'preset', preset: 1, reference: 10 });
    expect(r.lost).toContainEqual({ what: 'speed', from: 'analogue', input: null, to: 'preset' });
    expect(awake(settings())(run([1, 1]))).toMatchObject({ preset: 3, reference: -30 });
  });

  test('three contacts give eight speeds', () => {
    const jobs = [Job.runForward, Job.presetBit0, Job.presetBit1, Job.presetBit2];
    const presets = [5, 10, 15, 20, 25, 30, 35];
    const s = settings({ jobs, presets, remote: { start: StartSource.terminals, speed: SpeedSource.presets } });
    const speeds = Array.from({ length: 8 }, (_, n) => awake(s)(contacts(1, n & 1, (n >> 1) & 1, n >> 2)).reference);
    expect(speeds).toEqual([12, 5, 10, 15, 20, 25, 30, 35]);
  });

  test('what limits a speed is named', () => {
    const limits = { ...settings().limits, minimumFrequency: 8, maximumFrequency: 40, skipCentre: 20, skipWidth: 4, reversePermit: 0 };
    const at = (speed: number) => awake(settings({ limits, presets: [speed] }))(run([1, 0]));
    expect(at(3)).toMatchObject({ asked: 3, reference: 8, limited: 'minimum' });
    expect(at(45)).toMatchObject({ reference: 40, limited: 'maximum' });
    expect(at(19)).toMatchObject({ reference: 18, limited: 'skip band' });
    expect(at(-20)).toMatchObject({ reference: 0, limited: 'reverse forbidden', run: true, holds: ['reverse forbidden'] });
    expect(at(30).limited).toBeNull();
  });

  test('faster and slower move it while it runs, at the ramp’s rate, and a stop forgets it', () => {
    const jobs = [Job.runForward, Job.faster, Job.slower];
    const scan = awake(settings({ jobs, remote: { start: StartSource.terminals, speed: SpeedSource.upDown } }));
    scan(contacts(1, 1, 0));
    expect(scan().reference).toBeCloseTo(1, 9);
    expect(scan().reference).toBeCloseTo(2, 9);
    expect(scan(contacts(1, 0, 1)).reference).toBeCloseTo(1, 9);
    scan(contacts(0, 0, 0));
    scan(contacts(1, 0, 0));
    expect(scan().reference).toBe(0);
  });

  test('the up and down contacts take the speed over where the ramp stands', () => {
    const jobs = [Job.runForward, Job.local, Job.faster, Job.slower];
    const local = { start: StartSource.terminals, speed: SpeedSource.upDown };
    const scan = awake(settings({ jobs, local, switchOver: SwitchOver.carriesOn }));
    expect(scan({ ...contacts(1, 0, 0, 0), present: 27.5 })).toMatchObject({ run: true, speed: 'analogue', reference: 27.5 });
    expect(scan(contacts(1, 1, 0, 0))).toMatchObject({ run: true, speed: 'up and down', reference: 27.5 });
  });

  test('jog turns it while the contact is closed, and not while something else runs it', () => {
    const scan = awake(settings({ jobs: [Job.runForward, Job.jogForward, Job.jogReverse] }));
    expect(scan(contacts(0, 0, 1))).toMatchObject({ run: true, start: 'jog contact', reference: -4 });
    expect(scan(contacts(1, 1, 0))).toMatchObject({ start: 'run contact', speed: 'analogue' });
    expect(scan().lost).toContainEqual({ what: 'start', from: 'jog contact', input: 1, to: 'source' });
    // it stays closed as the run contact is let go: that starts nothing, closing it anew does
    expect(scan(contacts(0, 1, 0))).toMatchObject({ run: false, holds: ['start to be renewed'] });
    scan(contacts(0, 0, 0));
    expect(scan(contacts(0, 1, 0))).toMatchObject({ run: true, start: 'jog contact', reference: 4 });
  });

  test('a jog that was closed as power came waits on through a start button that is pressed and let go', () => {
    const scan = drive(settings({ jobs: [Job.startPulse, Job.stopOpens, Job.jogForward] }));
    for (const start of [0, 0, 1, 1, 0, 0, 1, 0]) expect(scan(contacts(start, 1, 1)).run).toBe(false);
    scan(contacts(0, 1, 0));
    expect(scan(contacts(0, 1, 1)).run).toBe(true);
  });
});

describe('signals', () => {
  test('40 % of a 4–20 mA input is 10.4 mA', () => {
    expect(signalAt(AnalogueSignal.liveZero, 0.4)).toBeCloseTo(10.4, 9);
    expect(shareOf(AnalogueSignal.liveZero, 10.4)).toBeCloseTo(0.4, 9);
  });

  test('a live zero is lost below 3.6 mA (NAMUR NE 43)', () => {
    const at = (mA: number) => liveZeroLost(AnalogueSignal.liveZero, shareOf(AnalogueSignal.liveZero, mA));
    expect([at(3.61), at(3.59)]).toEqual([false, true]);
  });

  test('both ways about zero, with a dead band', () => {
    const scale = { signal: AnalogueSignal.bothWays, low: 0, high: 50, deadBand: 0.04 };
    expect([-1, -0.5, -0.03, 0.03, 0.5].map((x) => analogueSpeed(scale, x) + 0)).toEqual([-50, -25, 0, 0, 25]);
  });

  test('a lost signal: trip is told, hold keeps the last speed, stop takes the run away', () => {
    const on = (onLiveZeroLoss: number) => {
      const scan = awake(settings({ onLiveZeroLoss }));
      scan({ ...contacts(1, 0, 0, 0, 1, 1), analogue: 0.8 });
      return scan({ analogue: -0.25 });
    };
    expect(on(LiveZeroAction.trip)).toMatchObject({ liveZeroLost: true, run: true });
    expect(on(LiveZeroAction.holdLast).reference).toBeCloseTo(41, 9);
    expect(on(LiveZeroAction.stop)).toMatchObject({ run: false, holds: ['live zero lost', 'start to be renewed'] });
    expect(on(LiveZeroAction.ignore)).toMatchObject({ liveZeroLost: false, reference: 5 });
  });
});
