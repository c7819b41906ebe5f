import { breakdown, completePlate, fieldWeakeningOnset, formatFigure, otherConnection, polesFrom, type StampedPlate } from '@yare/core';
import { levelsOf, wordsOf } from '../book';
import { circuitOf } from '../estimate';
import { amperes, hertz, type Look, type StageFinding } from './look';

export function plateFindings(look: Look): StageFinding[] {
  const { plate, supply } = look.c;
  const out: StageFinding[] = [];
  const onset = fieldWeakeningOnset(plate.frequency, plate.voltage, supply.voltage);
  const top = look.role('maximumFrequency') ?? plate.frequency;
  if (onset < plate.frequency * 0.985) {
    const torque = pullOutLeft(plate, supply.voltage);
    out.push({
      id: 'supply below plate',
      stage: 'plate',
      field: 'voltage',
      severity: top > onset + 0.2 ? 'warning' : 'good',
      sentence: `${plate.voltage} V ${plate.frequency} Hz motor on a ${supply.voltage} V supply: from ${hertz(onset)} on the drive has no more volts to give. Above that the field weakens${torque === null ? '' : `; at ${hertz(plate.frequency)} its greatest torque is ${formatFigure(torque.share * 100, 0)} % of that at plate volts (estimate)`}. Full torque ends at ${hertz(onset)}.`,
      ...(top > onset + 0.2 && {
        remedy: { label: `Limit to ${hertz(onset)}`, changes: look.change('maximumFrequency', Math.floor(onset * 10) / 10) },
      }),
    });
  }
  if (plate.voltage < supply.voltage * 0.8) {
    // a delta plate below the supply has six leads, said or not: only they could be linked so
    const other = otherConnection(plate.connection === 'delta' ? { ...plate, leads: plate.leads ?? 6 } : plate);
    const change = other && Math.abs(other.voltage / supply.voltage - 1) < 0.2 ? other : null;
    out.push({
      id: 'supply above plate',
      stage: 'plate',
      field: 'voltage',
      severity: 'warning',
      sentence: `The plate says ${plate.voltage} V for this connection and the supply has ${supply.voltage} V. The drive holds the motor to ${plate.voltage} V, but at ${amperes(plate.current)} instead of the smaller current of the higher voltage, and its links must really lie that way.`,
      ...(change && { remedy: { label: `Use the ${change.voltage} V connection, ${amperes(change.current)}`, plate: change } }),
    });
  }
  for (const s of look.settings) {
    if (s.plate !== 'connection') continue;
    const set = look.raw(s);
    const stamped = plate.connection === 'delta' ? 1 : 0;
    if (set !== stamped)
      out.push({
        id: 'connection differs',
        stage: 'plate',
        field: 'connection',
        severity: 'warning',
        sentence: `The plate is entered for ${plate.connection} and the draft says ${wordsOf(s, set).toLowerCase()}. Star figures with delta links make ${formatFigure(Math.sqrt(3), 2)} times the flux current: they must agree with the links in the box.`,
        remedy: { label: `Set ${s.code} to ${plate.connection}`, changes: [{ code: s.code, value: stamped, source: 'plate' }] },
      });
  }
  return out;
}

/** Pull-out torque at rated frequency with the supply's volts against that with the plate's, by the estimated circuit; null without one. */
function pullOutLeft(plate: StampedPlate, supply: number): { share: number } | null {
  if (polesFrom(plate.frequency, plate.speed) === null) return null;
  const estimate = circuitOf(completePlate(plate));
  if (!estimate.ok) return null;
  const at = (volts: number) => breakdown(estimate.circuit, volts / Math.sqrt(3), plate.frequency).torque;
  return { share: at(supply) / at(plate.voltage) };
}

/** What does not fit between drive, supply and plate. */
export function driveFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const levels = levelsOf(c.book, c.size);
  if (c.supply.voltage < levels.supplyMin || c.supply.voltage > levels.supplyMax)
    out.push({
      id: 'wrong supply',
      stage: 'drive',
      severity: 'error',
      sentence: `${c.book.family} ${c.size} is made for ${levels.supplyMin} to ${levels.supplyMax} V; the supply has ${c.supply.voltage} V. It must not be connected.`,
    });
  const stamped = c.plate.frequency >= 55 ? 60 : 50;
  if (stamped !== c.region) {
    const many = look.settings.filter((s) => s.access !== 'read' && s.factory50 !== s.factory60);
    const presets = many.filter((s) => s.role?.startsWith('preset')).length;
    out.push({
      id: 'region',
      stage: 'drive',
      severity: 'warning',
      sentence: `A ${c.plate.frequency} Hz plate on a ${c.region} Hz factory start: ${many.length} factory values differ between the two${presets > 0 ? `, ${presets} preset speeds among them` : ''}.`,
      remedy: { label: `Go to the factory start`, go: 'drive' },
    });
  }
  return out;
}
