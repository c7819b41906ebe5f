import { useState } from 'react';
import { sensorDecimals, signalEnds, type MachineModel } from '@yare/commissioning';
import type { Driven } from '@yare/contract';
import { sensorUnits, type Measured, type ProcessSensor } from '@yare/core';
import { say } from '@yare/words/pages/process';
import { editSurvey } from '../../data/edits';
import { useSurvey } from '../../data/survey';
import { Choices } from '../../ui/entry';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { ActRow, SectionHead, SheetRow } from '../../ui/sheet';

const measuredNames: Record<Measured, string> = { pressure: say.pressure, level: say.level, flow: say.flow, temperature: say.temperature };
const measuredKinds: readonly Measured[] = ['pressure', 'level', 'flow', 'temperature'];
const usual: Record<Measured, ProcessSensor> = {
  pressure: { measures: 'pressure', low: 0, high: 10, unit: 'bar' },
  level: { measures: 'level', low: 0, high: 4, unit: 'm' },
  flow: { measures: 'flow', low: 0, high: 100, unit: 'm³/h' },
  temperature: { measures: 'temperature', low: 0, high: 100, unit: '°C' },
};

/** The sensor of the process as it is recorded with what is driven. */
export function useSensor(model: MachineModel): { sensor: ProcessSensor | null; can: boolean; set: (sensor: ProcessSensor | null) => void } {
  const { tag, driven } = model.machine;
  const { survey } = useSurvey(model);
  const set = (sensor: ProcessSensor | null) => {
    if (!('sensor' in driven)) return;
    const to: Driven = { ...driven, sensor };
    editSurvey(tag, { driven: to }, { driven: survey.driven ?? null });
  };
  return { sensor: 'sensor' in driven ? driven.sensor : null, can: 'sensor' in driven, set };
}

const widest = { least: -1e5, most: 1e6 };

export function sensorEntries(tag: string, sensor: ProcessSensor, set: (s: ProcessSensor) => void): { low: Entry; high: Entry } {
  const entry = (key: 'low' | 'high', label: string): Entry => ({
    id: `${tag} sensor ${key}`,
    label,
    value: sensor[key],
    unit: sensor.unit,
    decimals: sensorDecimals(sensor),
    min: key === 'high' ? sensor.low + 1e-3 : widest.least,
    max: key === 'low' ? sensor.high - 1e-3 : widest.most,
    onSet: (value) => value !== null && set({ ...sensor, [key]: value }),
  });
  return { low: entry('low', say.rangeFrom), high: entry('high', say.rangeTo) };
}

/** What the sensor measures, in which unit, and what its two ends stand for. */
export function SensorRows({ model, signal }: { model: MachineModel; signal: number }) {
  const { tag } = model.machine;
  const { sensor, set } = useSensor(model);
  const [open, setOpen] = useState<'measures' | 'unit' | null>(null);
  if (!sensor)
    return (
      <>
        <SectionHead right={say.notRecorded}>{say.sensor}</SectionHead>
        {measuredKinds.map((m) => (
          <ActRow
            key={m}
            text={say.itMeasures({ measuredNames: measuredNames[m].toLowerCase() })}
            onPress={() => set(usual[m])}
            testID={`sensor-${m}`}
          />
        ))}
      </>
    );
  const ends = signalEnds(signal);
  const { low, high } = sensorEntries(tag, sensor, set);
  const toggle = (which: 'measures' | 'unit') => setOpen(open === which ? null : which);
  return (
    <>
      <SectionHead right={say.asOnItsPlate}>{say.sensor}</SectionHead>
      <SheetRow
        label={say.measures}
        text={measuredNames[sensor.measures]}
        mark="C"
        inHand={open === 'measures'}
        onPress={() => toggle('measures')}
        testID="sensor-measures"
      />
      {open === 'measures' && (
        <Choices
          options={measuredKinds.map((value) => ({ value, label: measuredNames[value] }))}
          value={sensor.measures}
          onChoose={(value) => {
            setOpen(null);
            const measures = measuredKinds.find((m) => m === value);
            if (measures && measures !== sensor.measures) set(usual[measures]);
          }}
        />
      )}
      <SheetRow
        label={say.unit}
        second={say.aChangeKeepsTheFigures}
        text={sensor.unit}
        mark="C"
        inHand={open === 'unit'}
        onPress={() => toggle('unit')}
        testID="sensor-unit"
      />
      {open === 'unit' && (
        <Choices
          options={sensorUnits[sensor.measures].map((value) => ({ value, label: value }))}
          value={sensor.unit}
          onChoose={(value) => {
            setOpen(null);
            const unit = sensorUnits[sensor.measures].find((u) => u === value);
            if (unit) set({ ...sensor, unit });
          }}
        />
      )}
      <EntryRow least={0} entry={low} second={say.at({ low: ends.low, unit: ends.unit })} mark="C" testID="sensor-low" />
      <EntryRow least={0} entry={high} second={say.at2({ high: ends.high, unit: ends.unit })} mark="C" testID="sensor-high" />
    </>
  );
}
