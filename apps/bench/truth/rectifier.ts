import { nth } from '@yare/core';

/**
 * DC bus behind its mains rectifier, each diode by itself. Every line has its own inductance; a bridge leg stands at the bus's upper rail while
 * its line's current flows in, at the lower while it flows out, and floats between when none flows. Which leg does what in a step is a linear
 * complementarity problem, solved by projected Gauss–Seidel (Cottle, Pang, Stone, *The Linear Complementarity Problem*, ch. 5): commutation,
 * gaps and a lost phase come of themselves.
 */
export interface Mains {
  /** V line to line, RMS; of a doubler its line to neutral */
  voltage: number;
  frequency: number;
  /** H per line, network and choke */
  inductance: number;
  /** Ω per line */
  resistance: number;
  /** negative sequence over positive */
  unbalance: number;
  kind: 'three-phase' | 'single-phase' | 'doubler';
}

/** V across a conducting diode. */
const diode = 0.9;
/** Sweeps of Gauss–Seidel at most, and the V it may be off by. */
const sweeps = 24;
const near = 0.05;
/** Ω of the charging resistor over V/A of the drive; it is bridged at this share of the crest, and in again below the lower one. */
const charged = 0.85;
const discharged = 0.5;

export class TrueRectifier {
  /** V */
  voltage: number;
  /** W from the mains, over the last step */
  power = 0;
  private readonly i = [0, 0, 0];
  private readonly u = [0, 0, 0];
  private readonly e = [0, 0, 0];
  /** V of the upper half, where a doubler charges each by itself */
  private upper: number;
  private angle = 0;
  private charging = false;

  /** @param capacitance F @param chargingResistance Ω */
  constructor(
    mains: Mains,
    private readonly capacitance: number,
    private readonly chargingResistance: number,
  ) {
    this.voltage = Math.SQRT2 * mains.voltage * (mains.kind === 'doubler' ? 2 : 1);
    this.upper = this.voltage / 2;
  }

  /** V of the lines against a star point, now. */
  private lines(mains: Mains, lost: boolean): number {
    const { e, angle } = this;
    const crest = Math.SQRT2 * mains.voltage;
    if (mains.kind === 'doubler') {
      e[0] = crest * Math.sin(angle);
      return 1;
    }
    if (mains.kind === 'single-phase') {
      e[0] = (crest / 2) * Math.sin(angle);
      e[1] = -e[0];
      return 2;
    }
    const phase = crest / Math.sqrt(3);
    const third = (2 * Math.PI) / 3;
    const back = mains.unbalance * phase;
    e[0] = phase * Math.sin(angle) + back * Math.sin(angle + 1);
    e[1] = phase * Math.sin(angle - third) + back * Math.sin(angle + 1 + third);
    // the lost line is the last one, which then carries nothing
    e[2] = phase * Math.sin(angle + third) + back * Math.sin(angle + 1 - third);
    return lost ? 2 : 3;
  }

  /** Legs of a bridge after a step: rails while they conduct, between them where no current flows. Returns A into the bus. */
  private bridge(n: number, h: number, inductance: number, resistance: number): number {
    const { i, u, e } = this;
    const rail = this.voltage / 2 + diode;
    const stiff = inductance / h + resistance;
    let mean = 0;
    for (let k = 0; k < n; k++) mean += nth(e, k) / n;
    let sum = 0;
    for (let k = 0; k < n; k++) sum += nth(u, k);
    for (let sweep = 0; sweep < sweeps; sweep++) {
      let moved = 0;
      for (let k = 0; k < n; k++) {
        // the leg's volts with which its line would end the step without current
        const free = (nth(e, k) - mean + (nth(i, k) * inductance) / h + (sum - nth(u, k)) / n) / (1 - 1 / n);
        const next = free > rail ? rail : free < -rail ? -rail : free;
        const by = Math.abs(next - nth(u, k));
        if (by > moved) moved = by;
        sum += next - nth(u, k);
        u[k] = next;
      }
      if (moved < near) break;
    }
    let into = 0;
    let out = 0;
    for (let k = 0; k < n; k++) {
      const floats = Math.abs(nth(u, k)) < rail;
      i[k] = floats ? 0 : (nth(e, k) - mean + (nth(i, k) * inductance) / h - nth(u, k) + sum / n) / stiff;
      if (nth(i, k) > 0) into += nth(i, k);
      else out -= nth(i, k);
    }
    for (let k = n; k < 3; k++) i[k] = 0;
    // what comes in by one line goes back by another, or does not come
    if (into === 0 || out === 0) {
      i.fill(0);
      return 0;
    }
    return (into + out) / 2;
  }

  /** One line against the middle of the bus: each half is charged on its own half-wave. A into the upper half, and out of the lower. */
  private doubler(h: number, inductance: number, resistance: number): [number, number] {
    const lower = this.voltage - this.upper;
    const driving = nth(this.e, 0) + (nth(this.i, 0) * inductance) / h;
    const leg = Math.max(-lower - diode, Math.min(this.upper + diode, driving));
    this.i[0] = (driving - leg) / (inductance / h + resistance);
    return [Math.max(0, this.i[0]), Math.max(0, -this.i[0])];
  }

  /**
   * One step.
   * @param load A out of the bus; below zero into it
   * @param lost one of three lines is missing
   * @param h s
   */
  advance(mains: Mains, load: number, lost: boolean, h: number): void {
    this.angle = (this.angle + 2 * Math.PI * mains.frequency * h) % (2 * Math.PI);
    const n = this.lines(mains, lost);
    const crest = Math.SQRT2 * mains.voltage * (mains.kind === 'doubler' ? 2 : 1);
    if (this.voltage < discharged * crest) this.charging = true;
    else if (this.voltage > charged * crest) this.charging = false;
    const resistance = mains.resistance + (this.charging ? this.chargingResistance : 0);
    const before = this.voltage;
    if (mains.kind === 'doubler') {
      const [up, down] = this.doubler(h, mains.inductance, resistance);
      const each = h / (2 * this.capacitance);
      const lower = Math.max(0, before - this.upper + each * (down - load));
      this.upper = Math.max(0, this.upper + each * (up - load));
      this.voltage = this.upper + lower;
      this.power = this.upper * up + lower * down;
      return;
    }
    const into = this.bridge(n, h, mains.inductance, resistance);
    this.voltage = Math.max(1, before + (h * (into - load)) / this.capacitance);
    this.upper = this.voltage / 2;
    this.power = into * before;
  }
}
