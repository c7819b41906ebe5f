/**
 * An induction motor in time, in stator coordinates (α along phase U): stator flux and two rotor cages one behind the other, which is how a
 * deep bar behaves (Krause, Wasynczuk, Sudhoff, *Analysis of Electric Machinery*, ch. 6, in flux linkages; Boldea, Nasar, *The Induction
 * Machine Handbook*, ch. 9 and 13, for saturation and the two cages). Vectors are amplitude-invariant: their length is a phase's peak.
 * Written for the bench alone; the application's own model knows nothing of it.
 */
export interface MotorConstants {
  /** Ω per phase at {@link warm} */
  statorResistance: number;
  /** Ω per phase with the rotor turning near its field, referred to the stator, at {@link warm} */
  rotorResistance: number;
  /** H per phase, unsaturated */
  statorLeakage: number;
  rotorLeakage: number;
  /** H at the flux of rated voltage */
  magnetising: number;
  /** Vs, peak, where that holds */
  ratedFlux: number;
  /** share of the magnetising current that the bent iron takes there, and how sharply it bends */
  saturation: number;
  bend: number;
  /** share of the leakage that goes when teeth saturate, and the A (peak) at which half of that is gone */
  leakageLoss: number;
  leakageKnee: number;
  /** Ω of iron loss at rated frequency, and the share of it that is hysteresis */
  iron: number;
  hysteresis: number;
  /** rotor resistance at rated frequency over that at none */
  deepBars: number;
  ratedFrequency: number;
  pairs: number;
}

/** °C at which resistances are given: a motor warm from its rated load. */
export const warm = 95;
/** °C below zero at which copper and cast aluminium would resist nothing (IEC 60034-1). */
const copper = 235;
const aluminium = 225;

/** The upper cage's resistance over that of both side by side. */
const upperShare = 2.5;
/** A bar's slot leakage takes at most this share of the rotor's. */
const mostSlot = 0.75;
/** s, least time constant between the cages, which the steps still follow. */
const quickest = 2.5e-4;
/** Hz below which hysteresis is not told from eddies any more. */
const slowest = 2;

/** Upper and lower cage with which the rotor has its resistance at no frequency and `deepBars` times it at rated frequency. */
function cages(c: MotorConstants): { upper: number; lower: number; slot: number; common: number } {
  const upper = upperShare * c.rotorResistance;
  const lower = (upperShare / (upperShare - 1)) * c.rotorResistance;
  const w = 2 * Math.PI * c.ratedFrequency;
  // Re of upper ∥ (lower + jx) set to deepBars · R2 and solved for x
  const sum = upper + lower;
  const wanted = c.deepBars * c.rotorResistance;
  const square = (wanted * sum * sum - upper * lower * sum) / Math.max(1e-12, upper - wanted);
  const seen = (upper / sum) ** 2;
  const slot = Math.max((upper + lower) * quickest, Math.min(Math.sqrt(Math.max(0, square)) / w, (mostSlot * c.rotorLeakage) / seen));
  return { upper, lower, slot, common: Math.max((1 - mostSlot) * c.rotorLeakage, c.rotorLeakage - seen * slot) };
}

/** What the terminals do to the windings. */
export const Leads = { driven: 0, oneOpen: 1, off: 2 } as const;
export type Leads = (typeof Leads)[keyof typeof Leads];

export class TrueMotor {
  /** Vs: stator, upper and lower cage, α and β */
  private sa = 0;
  private sb = 0;
  private ua = 0;
  private ub = 0;
  private la = 0;
  private lb = 0;
  /** A, at the terminals, iron included */
  currentA = 0;
  currentB = 0;
  /** N·m in the gap */
  torque = 0;
  /** W */
  statorLoss = 0;
  rotorLoss = 0;
  ironLoss = 0;
  /** A of the windings alone */
  private ia = 0;
  private ib = 0;
  private dsa = 0;
  private dsb = 0;
  private dua = 0;
  private dub = 0;
  private dla = 0;
  private dlb = 0;
  /** what bent iron leaves of each inductance, renewed once a step */
  private perMagnetising = 0;
  private perStator = 0;
  private perCommon = 0;
  private readonly bars: ReturnType<typeof cages>;
  private r1 = 0;
  private hotter = 1;
  /** W taken by iron for each V² */
  private irons = 0;

  constructor(readonly constants: MotorConstants) {
    this.bars = cages(constants);
    this.warmTo(warm, warm);
    this.bend(0);
  }

  /** Resistances at the temperatures of winding and rotor, °C. */
  warmTo(winding: number, rotor: number): void {
    this.r1 = (this.constants.statorResistance * (copper + winding)) / (copper + warm);
    this.hotter = (aluminium + rotor) / (aluminium + warm);
  }

  /** Ω of the stator as warm as it is. */
  get statorResistance(): number {
    return this.r1;
  }

  /** Vs, length of the main flux. */
  private mainA = 0;
  private mainB = 0;

  get flux(): number {
    return Math.hypot(this.mainA, this.mainB);
  }

  /** Inductances as main flux and current leave them. */
  private bend(frequency: number): void {
    const c = this.constants;
    const x = this.flux / c.ratedFlux;
    this.perMagnetising = (1 - c.saturation + c.saturation * Math.pow(Math.min(x, 1.6), c.bend)) / c.magnetising;
    const amperes = (this.ia * this.ia + this.ib * this.ib) / (c.leakageKnee * c.leakageKnee);
    const left = 1 - (c.leakageLoss * amperes) / (1 + amperes);
    this.perStator = 1 / (c.statorLeakage * left);
    this.perCommon = 1 / (this.bars.common * left);
    const size = Math.max(slowest, Math.abs(frequency));
    this.irons = (1 - c.hysteresis + (c.hysteresis * c.ratedFrequency) / size) / c.iron;
  }

  /** Currents of the fluxes given, and how the fluxes change. */
  private rates(sa: number, sb: number, ua: number, ub: number, la: number, lb: number, va: number, vb: number, leads: Leads): void {
    const { upper, lower, slot } = this.bars;
    const { perMagnetising, perStator, perCommon, hotter } = this;
    const whole = 1 / (perMagnetising + perStator + perCommon);
    const rotorAlone = 1 / (perMagnetising + perCommon);
    // a lead without current lets its winding follow the main flux
    const ma = leads === Leads.driven ? whole * (sa * perStator + ua * perCommon) : rotorAlone * ua * perCommon;
    const mb = leads === Leads.off ? rotorAlone * ub * perCommon : whole * (sb * perStator + ub * perCommon);
    this.mainA = ma;
    this.mainB = mb;
    this.ia = leads === Leads.driven ? (sa - ma) * perStator : 0;
    this.ib = leads === Leads.off ? 0 : (sb - mb) * perStator;
    const ra = (ua - ma) * perCommon;
    const rb = (ub - mb) * perCommon;
    const lowA = (la - ua) / slot;
    const lowB = (lb - ub) / slot;
    this.dsa = va - this.r1 * this.ia;
    this.dsb = vb - this.r1 * this.ib;
    const upperA = ra - lowA;
    const upperB = rb - lowB;
    // without the rotor's turning, which a step does exactly
    this.dua = -upper * hotter * upperA;
    this.dub = -upper * hotter * upperB;
    this.dla = -lower * hotter * lowA;
    this.dlb = -lower * hotter * lowB;
    this.rotorLoss = 1.5 * hotter * (upper * (upperA * upperA + upperB * upperB) + lower * (lowA * lowA + lowB * lowB));
  }

  /** Torque, currents and losses of the fluxes as they stand. */
  private tell(leads: Leads): void {
    this.torque = 1.5 * this.constants.pairs * (this.sa * this.ib - this.sb * this.ia);
    this.statorLoss = 1.5 * this.r1 * (this.ia * this.ia + this.ib * this.ib);
    const ea = leads === Leads.driven ? this.dsa : 0;
    const eb = leads === Leads.off ? 0 : this.dsb;
    this.currentA = this.ia + ea * this.irons;
    this.currentB = this.ib + eb * this.irons;
    this.ironLoss = 1.5 * this.irons * (ea * ea + eb * eb);
  }

  /**
   * One step of Heun's rule, the rotor's turning taken out as an integrating factor: its error of phase would be taken for slip. What is told
   * is of the step's beginning.
   * @param va V of the terminals, α and β
   * @param speed mechanical, rad/s
   * @param frequency Hz of the output, for the iron
   * @param h s
   */
  advance(va: number, vb: number, speed: number, frequency: number, leads: Leads, h: number): void {
    const turn = speed * this.constants.pairs * h;
    const cos = Math.cos(turn);
    const sin = Math.sin(turn);
    this.bend(frequency);
    this.rates(this.sa, this.sb, this.ua, this.ub, this.la, this.lb, va, vb, leads);
    this.tell(leads);
    const { dsa, dsb, dua, dub, dla, dlb } = this;
    const { sa, sb, ua, ub, la, lb } = this;
    const [pa, pb, qa, qb] = [ua + h * dua, ub + h * dub, la + h * dla, lb + h * dlb];
    this.rates(sa + h * dsa, sb + h * dsb, cos * pa - sin * pb, sin * pa + cos * pb, cos * qa - sin * qb, sin * qa + cos * qb, va, vb, leads);
    const half = h / 2;
    this.sa = leads === Leads.driven ? sa + half * (dsa + this.dsa) : this.mainA;
    this.sb = leads === Leads.off ? this.mainB : sb + half * (dsb + this.dsb);
    this.ua = cos * (ua + half * dua) - sin * (ub + half * dub) + half * this.dua;
    this.ub = sin * (ua + half * dua) + cos * (ub + half * dub) + half * this.dub;
    this.la = cos * (la + half * dla) - sin * (lb + half * dlb) + half * this.dla;
    this.lb = sin * (la + half * dla) + cos * (lb + half * dlb) + half * this.dlb;
  }
}
