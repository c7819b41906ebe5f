import { GuardAction, InputJob, type SettingRole } from '@yare/core';
import { auto, make, seconds, until, type Change } from './autoMachine';

const loads: Change = { shutLoad: 0.42, dryRunLevel: 0.5, dryRunDelay: 5, sleepFrequency: 0, noFlowDelay: 0 };

describe('guards at the bench', () => {
  test('a pump that runs dry rests, and tries again by itself once there is water', () => {
    const { d, side } = make('P-11', { ...loads, dryRunAction: GuardAction.rest, guardRest: 20, guardTries: 2 });
    side.act({ ...auto, handles: { demand: 40 } }, 0);
    seconds(d, 30);
    expect([d.running, d.machine.trip]).toEqual([true, null]);
    side.act({ fault: { id: 'air', trigger: 'now' } }, 0);
    expect(until(d, () => d.controls.guards.restsFor === 'dryRun', 40)).toBeLessThan(20);
    expect(until(d, () => !d.running, 20)).toBeLessThan(15);
    side.act({ fault: { id: 'air', trigger: null } }, 0);
    expect(until(d, () => d.running, 40)).toBeLessThan(25);
    seconds(d, 20);
    expect([d.running, d.machine.trip]).toEqual([true, null]);
  });

  test('without water it tries so often and trips; without a load measured it never acts', () => {
    const { d, side } = make('P-11', { ...loads, dryRunAction: GuardAction.rest, guardRest: 10, guardTries: 1 });
    side.act({ ...auto, handles: { demand: 40 }, fault: { id: 'air', trigger: 'now' } }, 0);
    expect(until(d, () => d.machine.trip !== null, 90)).toBeLessThan(80);
    expect(d.machine.trip?.cause).toBe('dryRun');
    const blind = make('P-11', { ...loads, shutLoad: 0 });
    blind.side.act({ ...auto, handles: { demand: 40 }, fault: { id: 'air', trigger: 'now' } }, 0);
    seconds(blind.d, 30);
    expect(blind.d.machine.trip).toBeNull();
  });

  test('no flow is told without a switch, from the load against the shut valve', () => {
    const { d, side } = make('P-11', { ...loads, dryRunLevel: 0, shutLoad: 0.45, noFlowDelay: 8, noFlowSource: 1 });
    side.act({ panel: { mode: 0, knob: 0.9 }, handles: { demand: 50 } }, 0);
    seconds(d, 25);
    expect(d.machine.trip).toBeNull();
    side.act({ fault: { id: 'valve', trigger: 'now' } }, 0);
    expect(until(d, () => d.machine.trip !== null, 40)).toBeLessThan(25);
    expect(d.machine.trip?.cause).toBe('noFlow');
  });

  test('rags make it take too much: it cleans itself, backward first, and goes on holding its pressure', () => {
    const { d, side } = make('P-11', {
      ...{
        sleepFrequency: 0,
        reversePermit: 1,
        highLoadLevel: 1.05,
        highLoadDelay: 3,
        cleanAtLoad: 1,
        cleanStrokes: 2,
        cleanFrequency: 25,
        cleanTime: 5,
      },
    });
    side.act({ ...auto, handles: { demand: 50 } }, 0);
    seconds(d, 30);
    expect(d.controls.doing).toBe('nothing');
    side.act({ fault: { id: 'rags', trigger: 'now' } }, 0);
    expect(until(d, () => d.controls.doing === 'cleaning', 30)).toBeLessThan(20);
    expect(until(d, () => d.machine.speed < -20, 30)).toBeLessThan(25);
    expect(until(d, () => d.controls.doing === 'nothing', 120)).toBeLessThan(100);
    seconds(d, 20);
    expect([d.plant.rags, d.machine.trip]).toEqual([0, null]);
    expect(Math.abs(d.controls.feedback - 42)).toBeLessThan(2);
  });

  test('a button cleans a running pump once; with reverse forbidden it only stands and goes on', () => {
    const clean = { terminal: 'D1', job: InputJob.cleanNow };
    for (const permit of [1, 0]) {
      const { d, side } = make('P-11', { sleepFrequency: 0, reversePermit: permit, cleanStrokes: 1, cleanTime: 3 }, clean);
      side.act({ ...auto, handles: { demand: 40 } }, 0);
      seconds(d, 25);
      side.act({ panel: { clean: 1 } }, 0);
      let lowest = 0;
      for (let t = 0; t < 110; t += 0.1) {
        d.advance(100);
        lowest = Math.min(lowest, d.machine.speed);
      }
      expect(lowest < -20).toBe(permit === 1);
      expect([d.controls.doing, d.running]).toEqual(['nothing', true]);
    }
  });

  test('an empty pipe is filled slowly first, and a burst one trips', () => {
    const fill: Change = { sleepFrequency: 0, fillFrequency: 30, fillLevel: 0.12, fillTime: 40 };
    const { d, side } = make('P-11', fill);
    side.act({ ...auto, handles: { demand: 20 } }, 0);
    seconds(d, 1.5);
    expect(d.controls.doing).toBe('filling');
    expect(until(d, () => d.controls.doing === 'nothing', 40)).toBeLessThan(30);
    expect(Math.abs(d.machine.ramp)).toBeLessThan(40);
    const burst = make('P-11', fill);
    burst.side.act({ ...auto, handles: { demand: 100 }, fault: { id: 'burst', trigger: 'now' } }, 0);
    expect(until(burst.d, () => burst.d.machine.trip !== null, 80)).toBeLessThan(60);
    expect(burst.d.machine.trip?.cause).toBe('notFilled');
  });

  test('it runs on when its start is taken away, and not when it is stopped', () => {
    const { d, side } = make('C-21', { runOnTime: 15 });
    side.act({ panel: { run: 1 } }, 0);
    seconds(d, 10);
    side.act({ panel: { run: 0 } }, 0);
    seconds(d, 10);
    expect([d.controls.doing, d.running]).toEqual(['running on', true]);
    seconds(d, 20);
    expect(d.running).toBe(false);
    side.act({ panel: { run: 1 } }, 0);
    seconds(d, 10);
    side.act({ panel: { stop: 1 } }, 0);
    seconds(d, 0.5);
    expect(d.machine.motor.current).toBe(0);
    expect(d.controls.doing).toBe('nothing');
  });
});

describe('cold and clogged', () => {
  test('a pump that sleeps turns slowly while it freezes, and sleeps on when it no longer does', () => {
    const { d, side } = make('P-11', { frostFrequency: 12, sleepFrequency: 45, noFlowDelay: 0 }, { terminal: 'D1', job: InputJob.frost });
    side.act({ ...auto, handles: { demand: 0 } }, 0);
    expect(until(d, () => d.controls.process.sleep.asleep && !d.running, 120)).toBeLessThan(120);
    // the button stands for the thermostat at that input
    d.panel.state.clean = 1;
    seconds(d, 8);
    expect([d.controls.doing, Math.round(d.machine.ramp)]).toEqual(['frost', 12]);
    d.panel.state.clean = 0;
    expect(until(d, () => !d.running, 30)).toBeLessThan(30);
    expect(d.machine.trip).toBeNull();
  });

  test('a freeze-stat that opens stops the fan; a clogged filter only warns, at the speed it runs at', () => {
    // as the bench leaves it clean: pressure at full speed, from what it makes at half
    const { d, side } = make('F-32', { filterLevel: 0.7, filterDelay: 10, cleanAir: 0.62 });
    side.act({ panel: { mode: 0, knob: 0.8 } }, 0);
    seconds(d, 90);
    expect(d.controls.guards.warns).toEqual([]);
    side.act({ handles: { filter: 12 } }, 0);
    seconds(d, 30);
    expect(d.controls.guards.warns).toEqual(['filter']);
    expect(d.machine.trip).toBeNull();
    side.act({ panel: { coil: 1 } }, 0);
    seconds(d, 0.5);
    expect(d.machine.trip?.cause).toBe('freezeStat');
  });
});

describe('emergency ventilation', () => {
  const fan: Change = { emergencyFrequency: 45, emergencyOverrides: 2, emergencyEnds: 0, accelerationTime: 20 };

  test('runs with its selector at off, on through an overload and an open external contact, logs both, and ends with its contact', () => {
    const { d, side } = make('F-32', { ...fan, overloadCurrent: 16 });
    side.act({ panel: { smoke: 1 } }, 0);
    seconds(d, 60);
    expect(d.controls.doing).toBe('emergency');
    expect(d.machine.ramp).toBeCloseTo(45, 0);
    side.act({ fault: { id: 'external', trigger: 'now' } }, 0);
    expect(until(d, () => d.machine.motorHeat > 1, 900)).toBeLessThan(900);
    seconds(d, 5);
    expect([d.running, d.machine.trip]).toEqual([true, null]);
    const counted = (role: SettingRole) => d.readRegister(d.settings.need(role).register);
    expect([counted('emergencyCount'), counted('emergencyIgnored')]).toEqual([1, 2]);
    expect(d.keptState().emergency).toMatchObject({ count: 1, ignored: 2 });
    side.act({ panel: { smoke: 0 } }, 0);
    seconds(d, 0.2);
    expect([d.controls.doing, d.machine.goal]).toEqual(['nothing', 0]);
  });

  test('safe torque off always stops it; without its setting the contact does nothing', () => {
    const { d, side } = make('F-32', fan);
    side.act({ panel: { smoke: 1 } }, 0);
    seconds(d, 20);
    side.act({ panel: { stop: 1 } }, 0);
    seconds(d, 0.5);
    expect(d.machine.motor.current).toBe(0);
    const none = make('F-32', { ...fan, emergencyFrequency: 0 });
    none.side.act({ panel: { smoke: 1 } }, 0);
    seconds(none.d, 10);
    expect(none.d.running).toBe(false);
  });
});

describe('what comes before what', () => {
  const fan: Change = { emergencyFrequency: 45, emergencyOverrides: 1, accelerationTime: 20, liveZeroLoss: 0 };

  test('smoke comes before whoever holds the drive over the link, and the link has it again afterwards only by asking', () => {
    const { d, side } = make('F-32', fan);
    const { take, control } = d.book.words.command;
    d.writeRegister(take.register, d.book.words.codes.take);
    d.writeRegister(control.register, 6);
    side.act({ panel: { smoke: 1 } }, 0);
    seconds(d, 10);
    expect([d.controls.doing, d.running]).toEqual(['emergency', true]);
    side.act({ panel: { smoke: 0 } }, 0);
    seconds(d, 0.1);
    expect(d.controls.doing).toBe('nothing');
  });

  test('a trip that stops even an emergency is cleared and tried again; one that ends with power off goes on until then', () => {
    const { d, side } = make('F-32', { ...fan, emergencyEnds: 1 });
    side.act({ panel: { smoke: 1 } }, 0);
    seconds(d, 15);
    side.act({ fault: { id: 'short', trigger: 'now' } }, 0);
    expect(until(d, () => d.machine.trip !== null, 5)).toBeLessThan(5);
    expect(d.machine.trip?.cause).toBe('overcurrent');
    side.act({ fault: { id: 'short', trigger: null }, panel: { smoke: 0 } }, 0);
    expect(until(d, () => d.running, 20)).toBeLessThan(15);
    expect(d.controls.doing).toBe('emergency');
    side.act({ handles: { power: 0 } }, 0);
    seconds(d, 8);
    side.act({ handles: { power: 1 } }, 0);
    seconds(d, 5);
    expect([d.controls.doing, d.running]).toEqual(['nothing', false]);
  });

  test('a guard that only warns tells it over the link and stops nothing', () => {
    const { d, side } = make('P-11', {
      ...loads,
      dryRunLevel: 0,
      highPressureLevel: 0.3,
      highPressureDelay: 2,
      highPressureAction: GuardAction.warn,
    });
    side.act({ ...auto, handles: { demand: 40 } }, 0);
    seconds(d, 25);
    const { warns } = d.book.words.live;
    expect(warns && d.readRegister(warns.register)).toBe(1 << (d.book.told.warns?.highPressure ?? 0));
    expect([d.running, d.machine.trip]).toEqual([true, null]);
  });

  test('what a guard waited for is forgotten while the pump sleeps', () => {
    const { d, side } = make('P-11', { sleepFrequency: 46, sleepDelay: 10, noFlowDelay: 0, lowPressureLevel: 0.39, lowPressureDelay: 300 });
    side.act({ ...auto, handles: { demand: 3 } }, 0);
    expect(until(d, () => d.controls.process.sleep.asleep && !d.running, 120)).toBeLessThan(120);
    expect(Math.max(...d.controls.guards.waited)).toBe(0);
  });
});
