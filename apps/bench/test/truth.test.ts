import { Solver } from 'odex';
import { ControlWord, Phase, random, restingLoad, ReversePermit, StartMode, Switch, type DriveParameters, type PumpLoad } from '@yare/core';
import { demoMachine, demoDraft } from '@yare/demo-plant';
import { trueMachine } from '../accuracy/trueRun';
import { Plant } from '../src/plant/plant';
import { firstDay } from '../truth/draw';
import { TrueLoad, type LoadShape } from '../truth/loads';
import { Leads, TrueMotor, type MotorConstants } from '../truth/motor';
import { TrueRectifier, type Mains } from '../truth/rectifier';

const h = 2e-4;
const plain = {
  ratedFlux: 1,
  saturation: 0,
  bend: 6,
  leakageLoss: 0,
  leakageKnee: 100,
  iron: 1e9,
  hysteresis: 0.5,
  deepBars: 1.0001,
  ratedFrequency: 60,
};
const w = 2 * Math.PI * 60;
const ofOhms = (r1: number, r2: number, x1: number, x2: number, xm: number, pairs: number): MotorConstants => ({
  ...plain,
  ...{ statorResistance: r1, rotorResistance: r2, statorLeakage: x1 / w, rotorLeakage: x2 / w, magnetising: xm / w, pairs },
});

describe('windings in time', () => {
  // Chapman, Electric Machinery Fundamentals, induction motor examples (from memory): 460 V, 25 hp, 60 Hz, slip 2.2 %
  test('settle where the textbook has its 25 hp motor: 18.88 A, 62.8 N·m', () => {
    const m = new TrueMotor(ofOhms(0.641, 0.332, 1.106, 0.464, 26.3, 2));
    const volts = 460 * Math.sqrt(2 / 3);
    let [torque, current, n] = [0, 0, 0];
    for (let k = 0; k < 1.5 / h; k++) {
      m.advance(volts * Math.cos(w * k * h), volts * Math.sin(w * k * h), (0.978 * w) / 2, 60, Leads.driven, h);
      if (k * h < 1.2) continue;
      torque += m.torque;
      current += Math.hypot(m.currentA, m.currentB) / Math.SQRT2;
      n++;
    }
    expect(torque / n / 62.8).toBeCloseTo(1, 2);
    expect(current / n / 18.88).toBeCloseTo(1, 2);
  });

  // Krause, Wasynczuk, Sudhoff, Analysis of Electric Machinery, the 3 hp machine (constants from memory), started across the line; integrated here
  // by odex in coordinates that turn with the field, with currents as states
  test('start across the line as an independent integrator has it, torque swings and all', () => {
    const [r1, r2, x, xm, inertia] = [0.435, 0.816, 0.754, 26.13, 0.089];
    const volts = 220 * Math.sqrt(2 / 3);
    const [l1, l2, lm] = [(x + xm) / w, (x + xm) / w, xm / w];
    const det = l1 * l2 - lm * lm;
    const currents = (y: number[]) => {
      const [dS = 0, qS = 0, dR = 0, qR = 0] = y;
      return [(l2 * dS - lm * dR) / det, (l2 * qS - lm * qR) / det, (l1 * dR - lm * dS) / det, (l1 * qR - lm * qS) / det] as const;
    };
    const torqueOf = (y: number[]) => {
      const [id, iq] = currents(y);
      return 1.5 * 2 * ((y[0] ?? 0) * iq - (y[1] ?? 0) * id);
    };
    const at = new Solver(
      (_t: number, y: number[]) => {
        const [id, iq, idR, iqR] = currents(y);
        const [dS = 0, qS = 0, dR = 0, qR = 0, speed = 0] = y;
        const slip = w - 2 * speed;
        return [volts - r1 * id + w * qS, -r1 * iq - w * dS, -r2 * idR + slip * qR, -r2 * iqR - slip * dR, torqueOf(y) / inertia];
      },
      5,
      { absoluteTolerance: 1e-9, relativeTolerance: 1e-9 },
    ).integrate(0, [0, 0, 0, 0, 0]);
    const m = new TrueMotor(ofOhms(r1, r2, x, x, xm, 2));
    let speed = 0;
    const fine = 2e-5;
    const every = 500;
    for (let k = 0; k <= 0.4 / fine; k++) {
      // the field begins along α at t = 0 as the other's does along d
      m.advance(volts * Math.cos(w * (k + 0.5) * fine), volts * Math.sin(w * (k + 0.5) * fine), speed, 60, Leads.driven, fine);
      if (k > 0 && k % every === 0) {
        const y = at(k * fine);
        expect([k, Math.abs(m.torque - torqueOf(y)) < 2]).toEqual([k, true]);
        expect(Math.abs(speed - (y[4] ?? 0))).toBeLessThan(0.5);
      }
      speed += (m.torque / inertia) * fine;
    }
    expect(speed).toBeGreaterThan(0.98 * 188.5);
  });

  test('let go of, they keep their flux and lose it; reclosed out of step they jerk; with a lead open they make no torque at rest', () => {
    const m = new TrueMotor(ofOhms(0.641, 0.332, 1.106, 0.464, 26.3, 2));
    const volts = 460 * Math.sqrt(2 / 3);
    let k = 0;
    const run = (seconds: number, leads: Leads, turned = 0) => {
      let most = 0;
      for (const end = k + seconds / h; k < end; k++) {
        m.advance(volts * Math.cos(w * k * h + turned), volts * Math.sin(w * k * h + turned), leads === Leads.oneOpen ? 0 : 186, 60, leads, h);
        most = Math.max(most, Math.abs(m.torque));
      }
      return most;
    };
    run(1, Leads.driven);
    const flux = m.flux;
    run(0.05, Leads.off);
    expect(m.flux).toBeGreaterThan(0.5 * flux);
    expect(m.torque).toBe(0);
    // opposite phase: several times what it ever gives in step
    expect(run(0.1, Leads.driven, Math.PI)).toBeGreaterThan(229);
    run(3, Leads.off);
    expect(m.flux).toBeLessThan(0.01 * flux);
    let sum = 0;
    for (let i = 0; i < 2000; i++) {
      run(h, Leads.oneOpen);
      sum += m.torque / 2000;
    }
    expect(Math.abs(sum)).toBeLessThan(2);
  });

  test('heat makes them resist more: copper 235, cast aluminium 225 K below zero (IEC 60034-1)', () => {
    const m = new TrueMotor(ofOhms(1, 1, 1, 1, 30, 2));
    m.warmTo(25, 25);
    expect(m.statorResistance).toBeCloseTo(260 / 330, 6);
  });
});

describe('a bus behind its diodes', () => {
  const mains = (more: Partial<Mains> = {}): Mains => ({
    ...{ voltage: 400, frequency: 50, inductance: 2e-3, resistance: 0.05, unbalance: 0, kind: 'three-phase' },
    ...more,
  });
  const settled = (m: Mains, amperes: number, lost = false) => {
    const r = new TrueRectifier(m, 6e-4, 20);
    const seen = { mean: 0, high: 0, low: Infinity, power: 0 };
    for (let k = 0; k < 1.5 / h; k++) {
      r.advance(m, amperes, lost, h);
      if (k * h < 1.3) continue;
      seen.mean += (r.voltage * h) / 0.2;
      seen.power += (r.power * h) / 0.2;
      seen.high = Math.max(seen.high, r.voltage);
      seen.low = Math.min(seen.low, r.voltage);
    }
    return seen;
  };

  test('stands at the crest of the mains without load, of both half-waves behind a doubler', () => {
    expect(settled(mains(), 0).mean).toBeGreaterThan(Math.SQRT2 * 400 - 3);
    expect(settled(mains(), 0).mean).toBeLessThan(Math.SQRT2 * 400 + 0.1);
    expect(settled(mains({ voltage: 120, kind: 'doubler', frequency: 60 }), 0).mean / (2 * Math.SQRT2 * 120)).toBeCloseTo(1, 1);
  });

  // Mohan, Undeland, Robbins, Power Electronics, ch. 5: 1.35 U less the commutation's 3 ω L I / π, and two diodes
  test('falls with a continuous load by what commutation takes', () => {
    const m = mains({ inductance: 3e-3, resistance: 0.001 });
    const expected = 1.35 * 400 - (3 * 2 * Math.PI * 50 * m.inductance * 25) / Math.PI - 1.8;
    expect(Math.abs(settled(m, 25).mean - expected)).toBeLessThan(4);
  });

  test('takes from the mains what the load takes, and no more', () => {
    for (const m of [mains(), mains({ kind: 'single-phase', voltage: 230 }), mains({ unbalance: 0.02 })]) {
      const { mean, power } = settled(m, 5);
      expect(power / (5 * mean)).toBeCloseTo(1, 1);
    }
  });

  test('ripples by a few percent on three lines and by several times that on two', () => {
    const ripple = (lost: boolean) => {
      const { high, low } = settled(mains(), 8, lost);
      return (high - low) / (high + low);
    };
    expect(ripple(false)).toBeLessThan(0.04);
    expect(ripple(true)).toBeGreaterThan(0.07);
  });
});

describe('loads of their own shape', () => {
  const shape: LoadShape = {
    ...{ curve: 2, pipe: 2, stirring: 2, noFlowPower: 0.5, seal: 0.01, breakaway: 0.2, looseAt: 4 },
    ...{ waterTime: 0.05, damperLeak: 0.03, beltSlip: 0, gearDrag: 0.01 },
  };

  test('a pump by the affinity laws where its exponents are theirs, nothing back through its check valve', () => {
    const { load } = new Plant(demoMachine('P-11'), demoDraft(demoMachine('P-11')).values, 3).machine.spec;
    if (load.kind !== 'pump') throw new Error('P-11 pumps');
    const p: PumpLoad = { ...load, staticHead: 0 };
    const at = (speed: number) => {
      const state = restingLoad();
      const pump = new TrueLoad(shape, { speed: p.ratedSpeed, torque: 25 }, state);
      for (let i = 0; i < 60_000; i++) pump.advance(state, p, firstDay, speed, 0.001);
      return { ...state };
    };
    const [whole, half] = [at(p.ratedSpeed), at(p.ratedSpeed / 2)];
    expect(half.flow / whole.flow).toBeCloseTo(0.5, 1);
    expect(half.pressure / whole.pressure).toBeCloseTo(0.25, 1);
    expect(half.torque / whole.torque).toBeCloseTo(0.25, 1);
    const state = { ...restingLoad(), pressure: 4e5 };
    new TrueLoad(shape, { speed: p.ratedSpeed, torque: 25 }, state).advance(state, { ...p, demandOpening: 0 }, firstDay, 0, 0.001);
    expect([state.flow, state.pressure]).toEqual([0, 4e5]);
  });

  test('what is laid on a belt comes off at its other end when it has travelled the length, not before', () => {
    const { load } = new Plant(demoMachine('C-07'), demoDraft(demoMachine('C-07')).values, 3).machine.spec;
    if (load.kind !== 'conveyor') throw new Error('C-07 conveys');
    const state = restingLoad();
    const belt = new TrueLoad(shape, { speed: 151, torque: 14 }, state);
    const v = (151 * load.radius) / load.ratio;
    const run = (seconds: number, feed: number) => {
      for (let i = 0; i < seconds * 1000; i++) belt.advance(state, { ...load, feed }, firstDay, 151, 0.001);
    };
    run(2, load.feed);
    const laid = state.mass;
    expect(laid / (2 * load.feed)).toBeCloseTo(1, 1);
    run((0.8 * load.length) / v - 2, 0);
    expect(state.mass).toBeCloseTo(laid, 6);
    run((0.3 * load.length) / v, 0);
    expect(state.mass).toBeLessThan(0.3 * laid);
  });
});

describe('a firmware that does not see the shaft', () => {
  const spinning = (hertz: number) => {
    const demo = demoMachine('F-32');
    const plant = new Plant(demo, demoDraft(demo).values, 11);
    const { truth, machine: m } = plant;
    m.spec.drive = { ...m.spec.drive, startMode: StartMode.catchSpinning };
    for (const word of [ControlWord.shutdown, ControlWord.switchOn]) truth.advance(word, 0);
    m.speed = Math.PI * hertz;
    return { truth, m };
  };

  test('catches a fan that turns within a hertz or two, and not exactly', () => {
    const { truth, m } = spinning(31);
    truth.advance(ControlWord.enableOperation, 45);
    expect(m.phase).toBe(Phase.catching);
    for (let i = 0; i < 3000 && m.phase !== Phase.run; i++) truth.advance(ControlWord.enableOperation, 45);
    expect(m.phase).toBe(Phase.run);
    const off = Math.abs(m.ramp) - m.speed / Math.PI;
    expect(m.trip).toBeNull();
    expect(Math.abs(off)).toBeLessThan(2.5);
    expect(off).not.toBe(0);
    expect(m.speed / Math.PI).toBeGreaterThan(28);
  });

  test('says torque and current as its sensors and what it was told have them', () => {
    const demo = demoMachine('C-07');
    const plant = new Plant(demo, demoDraft(demo).values, 4);
    const { truth, machine: m } = plant;
    for (const word of [ControlWord.shutdown, ControlWord.switchOn]) truth.advance(word, 0);
    for (let i = 0; i < 8000; i++) truth.advance(ControlWord.enableOperation, 40);
    expect(m.motor.current / truth.current).toBeCloseTo(1, 1);
    expect(m.motor.torque).not.toBe(truth.motor.torque);
    expect(Math.abs(m.motor.torque / truth.motor.torque - 1)).toBeLessThan(0.3);
  });

  // conservation of energy: dead time keeps volts from the motor, which is no heat
  test('takes from its bus what comes out at the shaft and what is lost on the way, and no more', () => {
    const demo = demoMachine('C-07');
    const { truth, machine: m } = new Plant(demo, demoDraft(demo).values, 4);
    truth.constants.deadTime = 2.5;
    for (const word of [ControlWord.shutdown, ControlWord.switchOn]) truth.advance(word, 0);
    for (let i = 0; i < 6000; i++) truth.advance(ControlWord.enableOperation, 12);
    const { motor, rectifier } = truth;
    const { lossPerAmpere, idleLoss } = m.spec.rating;
    const seen = { taken: 0, given: 0, rounds: 0 };
    const advance = rectifier.advance.bind(rectifier);
    rectifier.advance = (mains, load, ...rest) => {
      seen.taken += load * rectifier.voltage - idleLoss;
      seen.given += motor.torque * m.speed + motor.statorLoss + motor.rotorLoss + motor.ironLoss + lossPerAmpere * truth.current;
      seen.rounds++;
      advance(mains, load, ...rest);
    };
    for (let i = 0; i < 1000; i++) truth.advance(ControlWord.enableOperation, 12);
    expect(seen.rounds).toBeGreaterThan(1000);
    expect(seen.given / seen.rounds).toBeGreaterThan(100);
    expect(Math.abs(seen.taken / seen.given - 1)).toBeLessThan(0.015);
  });

  test('the same noise is the same run', () => {
    const run = () => {
      const plant = new Plant(demoMachine('M-55'), demoDraft(demoMachine('M-55')).values, 9);
      for (const word of [ControlWord.shutdown, ControlWord.switchOn]) plant.truth.advance(word, 0);
      for (let i = 0; i < 2000; i++) plant.truth.advance(ControlWord.enableOperation, 30);
      return [plant.machine.speed, plant.machine.motor.current, random(3).uniform()];
    };
    expect(run()).toEqual(run());
  });

  describe('a hoist', () => {
    const lifts = { kind: 'hoist', lifts: 1000, hook: 50, hoistSpeed: 0.12, efficiency: 80, inertia: 0.01, brakeShare: 200 } as const;
    const demo = { ...demoMachine('C-07'), driven: lifts };
    const lowered = (change: Partial<DriveParameters>) => {
      const plant = trueMachine(demo, demoDraft(demo).values, 5, 0, { reversePermit: ReversePermit.permitted, ...change });
      const { truth, machine: m } = plant;
      const run = (reference: number, seconds: number) => {
        for (let i = 0; i < seconds * 1000 && !m.trip; i++) truth.advance(ControlWord.enableOperation, reference);
      };
      run(45, 8);
      const up = { speed: m.speed, torque: m.motor.torque };
      run(-45, 12);
      const down = { speed: m.speed, trip: m.trip?.cause ?? null };
      for (let i = 0; i < 3000; i++) truth.advance(ControlWord.switchOn, 0);
      return { up, down, atLast: m.speed };
    };

    test('lifts with its weight over its losses and lowers onto a resistor that takes it', () => {
      const { up, down } = lowered({ chopper: Switch.on, brakeResistance: 200, resistorPower: 5000 });
      const weight = (1050 * 9.81 * 0.12) / 151;
      expect(up.speed).toBeGreaterThan(125);
      expect(up.torque).toBeGreaterThan(weight);
      expect(up.torque).toBeLessThan(1.6 * weight);
      expect(down.trip).toBeNull();
      expect(down.speed).toBeLessThan(-125);
    });

    test('trips on its bus where nothing takes what it gives back, and its brake then holds it', () => {
      const { down, atLast } = lowered({ chopper: Switch.off, busRampHold: Switch.off });
      expect(down.trip).toBe('overvoltage');
      expect(atLast).toBe(0);
    });
  });
});
