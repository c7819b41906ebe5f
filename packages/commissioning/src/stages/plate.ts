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
import { say } from '@yare/words/stages/plate';
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
      sentence: say.vHzMotorOnA({
        voltage: plate.voltage,
        frequency: plate.frequency,
        supply: supply.voltage,
        onset: hertz(onset),
        torque: torque === null ? '' : say.atItsGreatestTorqueIs({ hertz: hertz(plate.frequency), share: torque.share * 100 }),
      }),
      ...(top > onset + 0.2 && {
        remedy: { label: say.limitTo({ hertz: hertz(onset) }), changes: c.settings.change('maximumFrequency', Math.floor(onset * 10) / 10) },
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
      sentence: say.thePlateSaysVFor({ voltage: plate.voltage, voltage2: supply.voltage, amperes: amperes(plate.current) }),
      ...(change && { remedy: { label: say.useTheVConnection({ voltage: change.voltage, amperes: amperes(change.current) }), plate: change } }),
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
        sentence: say.thePlateIsEnteredFor({ connection: plate.connection, text: c.settings.text(s).toLowerCase(), sqrt: Math.sqrt(3) }),
        remedy: { label: say.setTo({ code: s.code, connection: plate.connection }), changes: [{ code: s.code, value: stamped, source: 'plate' }] },
      });
  }
  return out;
}

/** What a motor needs that is run on to √3 of its frequency: links, drive, bearings and rotor, insulation, and the machine behind it. */
function raisedFindings({ plate, supply, settings }: Checked): Finding[] {
  const complete = completePlate(plate);
  const base = raisedBase(complete);
  const rpm = (x: number) => say.rpm({ x });
  const volts = `${formatFigure(base.voltage, 0)} V`;
  if (!mayBeRaised(plate, supply.voltage))
    return [
      {
        id: 'raised base impossible',
        field: 'base',
        severity: 'error',
        sentence: say.runOnToTheMotor({ hertz: hertz(base.frequency), volts, connection: plate.connection, voltage: supply.voltage }),
        remedy: { label: say.useTheFrequencyStamped, plate: { base: 'rated' } },
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
      sentence: say.inDeltaTheMotorKeeps({
        hertz: hertz(base.frequency),
        volts,
        power: base.power / 1000,
        rpm: rpm(base.speed),
        amperes: amperes(plate.current),
        speed: base.speed / plate.speed,
      }),
    },
    ...(small
      ? [
          {
            id: 'raised base too large',
            field: 'base' as const,
            severity: 'error' as const,
            sentence: say.theDriveCarriesInDelta({ amperes: amperes(settings.rating.current), amperes2: amperes(plate.current) }),
          },
        ]
      : []),
    {
      id: tooFast ? 'raised base too fast' : 'raised base speed',
      field: 'base',
      severity: tooFast ? 'warning' : 'good',
      sentence: tooFast
        ? say.isAboveTheAStandard({ rpm: rpm(base.speed), rpm2: rpm(most) })
        : say.isWithinTheAStandard({ rpm: rpm(base.speed), rpm2: rpm(most) }),
    },
    {
      id: 'raised base insulation',
      field: 'base',
      severity: 'warning',
      sentence: say.inDeltaEachPhaseStands({ supply: supply.voltage, star: plate.voltage, delta: Math.round(base.voltage / 5) * 5 }),
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
      return { proof: 'stale', text: findings.length === 1 ? say.oneFigureDoesNotFit : say.figuresDoNotFit({ findings: findings.length }) };
    // what fits before anybody was at the machine proves nothing yet
    return (
      against(m, 'plate') ??
      (surveyed ? { proof: 'proved', text: say.theFiguresFitOneAnother } : { proof: 'not yet', text: say.theFiguresFitTheSurvey })
    );
  },
});
