import {
  breakdown,
  checkPlate,
  circuitOf,
  completePlate,
  fieldWeakeningOnset,
  formatFigure,
  mayBeRaised,
  otherConnection,
  polesFrom,
  raisedBase,
  safeSpeed,
  WindingConnection,
  type StampedPlate,
} from '@yare/core';
import { amperes, hertz, type Checked, type Finding } from '../checked';
import { against, defineStage } from '../stage';

/** What does not fit between plate, supply and the links of its windings. */
function check(c: Checked): Finding[] {
  const { plate, supply } = c;
  const out: Finding[] = [];
  const onset = fieldWeakeningOnset(plate.frequency, plate.voltage, supply.voltage);
  const top = c.settings.roleValue('maximumFrequency');
  if (onset < plate.frequency * 0.985) {
    const torque = pullOutLeft(plate, supply.voltage);
    out.push({
      id: 'supply below plate',
      field: 'voltage',
      severity: top > onset + 0.2 ? 'warning' : 'good',
      sentence: `${plate.voltage} V ${plate.frequency} Hz motor on a ${supply.voltage} V supply: from ${hertz(onset)} on the drive has no more volts to give. Above that the field weakens${torque === null ? '' : `; at ${hertz(plate.frequency)} its greatest torque is ${formatFigure(torque.share * 100, 0)} % of that at plate volts (estimate)`}. Full torque ends at ${hertz(onset)}.`,
      ...(top > onset + 0.2 && {
        remedy: { label: `Limit to ${hertz(onset)}`, changes: c.settings.change('maximumFrequency', Math.floor(onset * 10) / 10) },
      }),
    });
  }
  const raised = plate.base === 'raised' && polesFrom(plate.frequency, plate.speed) !== null;
  if (raised) out.push(...raisedFindings(c));
  else if (plate.voltage < supply.voltage * 0.8) {
    // a delta plate below the supply has six leads, said or not: only they could be linked so
    const other = otherConnection(plate.connection === 'delta' ? { ...plate, leads: plate.leads ?? 6 } : plate);
    const change = other && Math.abs(other.voltage / supply.voltage - 1) < 0.2 ? other : null;
    out.push({
      id: 'supply above plate',
      field: 'voltage',
      severity: 'warning',
      sentence: `The plate says ${plate.voltage} V for this connection and the supply has ${supply.voltage} V. The drive holds the motor to ${plate.voltage} V, but at ${amperes(plate.current)} instead of the smaller current of the higher voltage, and its links must really lie that way.`,
      ...(change && { remedy: { label: `Use the ${change.voltage} V connection, ${amperes(change.current)}`, plate: change } }),
    });
  }
  for (const s of c.settings.all) {
    if (s.plate !== 'connection') continue;
    const set = c.settings.value(s);
    const stamped = plate.connection === 'delta' ? WindingConnection.delta : WindingConnection.star;
    if (set !== stamped)
      out.push({
        id: 'connection differs',
        field: 'connection',
        severity: 'warning',
        sentence: `The plate is entered for ${plate.connection} and the draft says ${c.settings.text(s).toLowerCase()}. Star figures with delta links make ${formatFigure(Math.sqrt(3), 2)} times the flux, and three times the magnetising current or more: they must agree with the links in the box.`,
        remedy: { label: `Set ${s.code} to ${plate.connection}`, changes: [{ code: s.code, value: stamped, source: 'plate' }] },
      });
  }
  return out;
}

/** What a motor needs that is run on to √3 of its frequency: links, drive, bearings and rotor, insulation, and the machine behind it. */
function raisedFindings({ plate, supply, settings }: Checked): Finding[] {
  const complete = completePlate(plate);
  const base = raisedBase(complete);
  const rpm = (x: number) => `${formatFigure(x, 0)} rpm`;
  const volts = `${formatFigure(base.voltage, 0)} V`;
  if (!mayBeRaised(plate, supply.voltage))
    return [
      {
        id: 'raised base impossible',
        field: 'base',
        severity: 'error',
        sentence: `Run on to ${hertz(base.frequency)}, the motor wants ${volts} on windings in delta; the plate is entered for ${plate.connection} and the supply has ${supply.voltage} V.`,
        remedy: { label: 'Use the frequency stamped', plate: { base: 'rated' } },
      },
    ];
  const most = safeSpeed(complete.power, complete.poles);
  const tooFast = base.speed > most;
  const small = plate.current > settings.rating.current;
  return [
    {
      id: 'raised base',
      field: 'base',
      severity: 'good',
      sentence: `In delta the motor keeps its flux up to ${hertz(base.frequency)} and ${volts}: ${formatFigure(base.power / 1000, 1)} kW at ${rpm(base.speed)} with the ${amperes(plate.current)} of delta all the way, and the machine turns ${formatFigure(base.speed / plate.speed, 2)} times as fast. Its links must lie in delta.`,
    },
    ...(small
      ? [
          {
            id: 'raised base too large',
            field: 'base' as const,
            severity: 'error' as const,
            sentence: `The drive carries ${amperes(settings.rating.current)}, in delta the motor takes ${amperes(plate.current)}: a larger drive.`,
          },
        ]
      : []),
    {
      id: tooFast ? 'raised base too fast' : 'raised base speed',
      field: 'base',
      severity: tooFast ? 'warning' : 'good',
      sentence: tooFast
        ? `${rpm(base.speed)} is above the ${rpm(most)} a standard motor of this size may turn for ever: ask its maker about rotor, bearings and fan.`
        : `${rpm(base.speed)} is within the ${rpm(most)} a standard motor of this size may turn for ever; grease and fan noise are those of that speed.`,
    },
    {
      id: 'raised base insulation',
      field: 'base',
      severity: 'warning',
      sentence: `In delta each phase of the winding stands at the drive’s ${supply.voltage} V pulses from line to line: the winding has to be insulated for an inverter on ${supply.voltage} V, as one stamped for ${formatFigure(plate.voltage, 0)}/${formatFigure(Math.round(base.voltage / 5) * 5, 0)} V usually is.`,
    },
  ];
}

/** Pull-out torque at rated frequency with the supply's volts against that with the plate's, by the estimated circuit; null without one. */
function pullOutLeft(plate: StampedPlate, supply: number): { share: number } | null {
  if (polesFrom(plate.frequency, plate.speed) === null) return null;
  const estimate = circuitOf(completePlate(plate));
  if (!estimate.ok) return null;
  const at = (volts: number) => breakdown(estimate.circuit, volts / Math.sqrt(3), plate.frequency).torque;
  return { share: at(supply) / at(plate.voltage) };
}

/** The motor's nameplate. */
export const plateStage = defineStage({
  path: 'plate',
  check,
  standing: (m, { surveyed }) => {
    const findings = checkPlate(m.plate);
    if (findings.length > 0)
      return { proof: 'stale', text: findings.length === 1 ? 'one figure does not fit' : `${findings.length} figures do not fit` };
    // what fits before anybody was at the machine proves nothing yet
    return (
      against(m, 'plate') ??
      (surveyed ? { proof: 'proved', text: 'the figures fit one another' } : { proof: 'not yet', text: 'the figures fit; the survey comes first' })
    );
  },
});
