import { restingBus, sourceInductance, stepBus, type Supply, nth } from '../src';

/**
 * A three-phase diode bridge on a stiff DC voltage, integrated phase by phase and sharing nothing with the model: each line behind its own
 * inductance, each pair of diodes a steep curve from one rail to the other, the star point floating. Mean A on the DC side.
 */
function bridge(supply: Supply, volts: number): number {
  const w = 2 * Math.PI * supply.frequency;
  const peak = Math.SQRT2 * (supply.voltage / Math.sqrt(3));
  // A over which a diode passes from blocking to conducting; small against the currents, large against the step
  const knee = 0.02;
  const dt = 1e-7;
  const i = [0, 0, 0];
  let sum = 0;
  let steps = 0;
  const cycles = 4;
  const end = cycles / supply.frequency;
  for (let t = 0; t < end; t += dt) {
    const e = [0, 1, 2].map((k) => peak * Math.cos(w * t - (k * 2 * Math.PI) / 3));
    const u = i.map((x) => (volts / 2) * Math.tanh(x / knee));
    const star = (nth(u, 0) + nth(u, 1) + nth(u, 2)) / 3;
    for (let k = 0; k < 3; k++) i[k] = nth(i, k) + (dt * (nth(e, k) - nth(u, k) + star)) / supply.inductance;
    if (t < end / 2) continue;
    sum += Math.max(0, nth(i, 0)) + Math.max(0, nth(i, 1)) + Math.max(0, nth(i, 2));
    steps += 1;
  }
  return sum / steps;
}

/** The model's bus under a steady load: V and A into it. */
function model(supply: Supply, load: number): { volts: number; amperes: number } {
  const bus = restingBus(supply);
  for (let i = 0; i < 3000; i++) stepBus(bus, supply, 5e-4, load, 0, 1e6, 1e6, 0.001);
  return { volts: bus.voltage, amperes: load / bus.voltage };
}

test.each([200, 600, 2000, 5000])('a bus under %i W stands where a bridge integrated phase by phase feeds it as much', (load) => {
  const supply: Supply = { voltage: 400, frequency: 50, inductance: sourceInductance(400, 50, 17) };
  const { volts, amperes } = model(supply, load);
  // V by which the bus would have to stand otherwise for the bridge to give the same: the slope of the bridge about there
  const here = bridge(supply, volts);
  const slope = (bridge(supply, volts + 2) - here) / 2;
  expect(Math.abs((amperes - here) / slope)).toBeLessThan(1.5);
});
