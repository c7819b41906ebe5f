import { rotationalTorque, rotorResistance, type Circuit, type Operation } from './circuit';

/**
 * Flux of a rotor that builds up, in V at rated frequency (flux linkage times ω of rated frequency), phase RMS, seen from the field: `re` along the
 * volts of the stator, `im` a quarter turn ahead.
 */
export interface RotorFlux {
  re: number;
  im: number;
}

export function noFlux(): RotorFlux {
  const flux = { re: 0.5, im: 0.5 };
  flux.re = flux.im = 0;
  return flux;
}

/** Share of the flux it goes to by which a flux may be off and count as built up. */
const built = 0.03;

/**
 * One step of a motor whose flux builds up after a start: the reduced model of third order, stator transients left out, rotor flux and speed kept
 * (Krause, Wasynczuk, Sudhoff, *Analysis of Electric Machinery*, ch. 8). Until there is flux there is no torque: the shaft stays behind its field,
 * and swings into it. Iron loss stands beside it as in the steady state.
 * @param out the motor at the end of the step @param flux moved on by it
 * @param voltage phase RMS, V @param frequency stator, Hz, above zero
 * @param speed rotor, mechanical rad/s, positive in the direction of the field
 * @param magnetising share of xm that the flux leaves @param dt s
 * @returns true once the flux is what the steady state has
 */
export function fluxRiseInto(
  out: Operation,
  flux: RotorFlux,
  c: Circuit,
  voltage: number,
  frequency: number,
  speed: number,
  magnetising: number,
  dt: number,
): boolean {
  const base = 2 * Math.PI * c.ratedFrequency;
  const k = frequency / c.ratedFrequency;
  const pairs = c.poles / 2;
  const slip = k - (speed * pairs) / base;
  const xm = c.xm * magnetising;
  const xr = xm + c.x2;
  const coupling = xm / xr;
  // behind the rotor's flux the stator has its resistance and what leaks
  const x = k * (xm + c.x1 - xm * coupling);
  const size = c.r1 * c.r1 + x * x;
  const gRe = c.r1 / size;
  const gIm = -x / size;
  // dφ/dt = a φ + b
  const decay = (base * rotorResistance(c, Math.abs(slip))) / xr;
  const driven = decay * xm;
  const aRe = -decay + driven * k * coupling * gIm;
  const aIm = -driven * k * coupling * gRe - base * slip;
  const bRe = driven * voltage * gRe;
  const bIm = driven * voltage * gIm;
  const a2 = aRe * aRe + aIm * aIm;
  const endRe = -(bRe * aRe + bIm * aIm) / a2;
  const endIm = -(bIm * aRe - bRe * aIm) / a2;
  const left = Math.exp(aRe * dt);
  const cos = left * Math.cos(aIm * dt);
  const sin = left * Math.sin(aIm * dt);
  const offRe = flux.re - endRe;
  const offIm = flux.im - endIm;
  flux.re = endRe + cos * offRe - sin * offIm;
  flux.im = endIm + sin * offRe + cos * offIm;
  const vRe = voltage + k * coupling * flux.im;
  const vIm = -k * coupling * flux.re;
  const iRe = gRe * vRe - gIm * vIm;
  const iIm = gRe * vIm + gIm * vRe;
  const rRe = (flux.re - xm * iRe) / xr;
  const rIm = (flux.im - xm * iIm) / xr;
  const mRe = xm * (iRe + rRe);
  const mIm = xm * (iIm + rIm);
  out.emf = k * Math.hypot(mRe, mIm);
  out.coreLoss = (3 * out.emf * out.emf) / (c.rFe * Math.sqrt(k));
  out.current = Math.hypot(iRe, iIm);
  out.statorCopperLoss = 3 * c.r1 * out.current * out.current;
  out.input = 3 * voltage * iRe + out.coreLoss;
  const apparent = 3 * voltage * out.current;
  out.powerFactor = apparent > 0 ? out.input / apparent : 0;
  out.torque = ((3 * pairs) / base) * coupling * (flux.re * iIm - flux.im * iRe);
  out.rotorCopperLoss = 3 * rotorResistance(c, Math.abs(slip)) * (rRe * rRe + rIm * rIm);
  out.airGapPower = (out.torque * 2 * Math.PI * frequency) / pairs;
  out.shaftTorque = out.torque - rotationalTorque(c, speed);
  out.output = out.shaftTorque * speed;
  out.efficiency = out.output > 0 && out.input > 0 ? out.output / out.input : 0;
  return Math.hypot(flux.re - endRe, flux.im - endIm) < built * Math.hypot(endRe, endIm);
}
