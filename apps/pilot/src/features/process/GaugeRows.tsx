import { Fragment } from 'react';
import { readingOf, sensorDecimals, sensorProof, type MachineModel } from '@yare/commissioning';
import { gaugeCheck, gaugeText, type AtGauge } from '@yare/commissioning/steady';
import { formatFigure, type ProcessSensor } from '@yare/core';
import { proofText } from '@yare/words';
import { useLive } from '../../data/live';
import { noteGauges, useGauges } from '../../data/liveTuning';
import { useProofs, useProve } from '../../data/proofs';
import { Refusal } from '../../ui/Answer';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { ActRow, Finding, SectionHead, SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';

/** The figure of a gauge, typed while the drive shows its own: kept with what the drive saw at that moment. */
export function gaugeEntry(tag: string, sensor: ProcessSensor, seen: number | null, gauges: readonly AtGauge[]): Entry {
  return {
    id: `${tag} gauge`,
    label: 'The gauge reads',
    value: null,
    unit: sensor.unit,
    decimals: sensorDecimals(sensor) + 1,
    optional: true,
    min: sensor.low - 0.2 * (sensor.high - sensor.low),
    max: sensor.high + 2 * (sensor.high - sensor.low),
    onSet: (gauge) => gauge !== null && seen !== null && noteGauges(tag, [...gauges, { gauge, seen }].slice(-2)),
  };
}

/** The sensor against a gauge at two points, as far apart as the plant allows. */
export function GaugeRows({
  model,
  sensor,
  signal,
  entry,
  setSensor,
}: {
  model: MachineModel;
  sensor: ProcessSensor;
  signal: number;
  entry: Entry;
  setSensor: (sensor: ProcessSensor) => void;
}) {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const gauges = useGauges(tag);
  const prove = useProve(model);
  const { newest, standing } = useProofs(model)('process', sensorProof.id);
  const there = live?.link === 'up';
  const check = gaugeCheck(gauges, sensor);
  const said = check && gaugeText(check, sensor);
  const text = (percent: number) => {
    const r = readingOf(sensor, signal, percent);
    return `${formatFigure(r.figure, r.decimals + 1)} ${r.unit}`;
  };
  return (
    <>
      <SectionHead right={standing.state === 'passed' ? 'agrees' : 'two points'}>Sensor against a gauge</SectionHead>
      <Refusal of={prove.error} />
      {standing.state === 'passed' && newest && gauges.length === 0 && (
        <Finding severity="good" sentence={`It agrees with a gauge: ${newest.author}, ${when(newest.at)}. ${proofText(newest)}.`} />
      )}
      {gauges.map((g, i) => (
        <Fragment key={`${g.gauge} ${g.seen}`}>
          <SheetRow
            label={i === 0 ? 'First point' : 'Second point'}
            second={`the drive saw ${text(g.seen)}`}
            figure={formatFigure(g.gauge, sensorDecimals(sensor) + 1)}
            unit={sensor.unit}
            testID={`gauge-${i}`}
          />
        </Fragment>
      ))}
      {said && (
        <Finding
          severity={said.severity}
          sentence={said.sentence}
          {...(check.fits && {
            act: `Set the range to ${check.fits.low} to ${check.fits.high} ${sensor.unit}`,
            onAct: () => {
              setSensor({ ...sensor, ...check.fits });
              noteGauges(tag, []);
            },
          })}
          {...(said.severity === 'good' && {
            act: 'Count it: the sensor agrees',
            onAct: () =>
              prove.mutate(
                {
                  stage: 'process',
                  item: sensorProof.id,
                  outcome: 'passed',
                  facts: {
                    ...{ kind: 'gauges', unit: sensor.unit, decimals: sensorDecimals(sensor) + 1, allowed: check.allowed },
                    points: gauges.map((g) => ({ gauge: g.gauge, seen: readingOf(sensor, signal, g.seen).figure })),
                  },
                },
                { onSuccess: () => noteGauges(tag, []) },
              ),
          })}
        />
      )}
      {there ? (
        <EntryRow
          entry={entry}
          label={gauges.length === 0 ? 'The gauge reads' : gauges.length === 1 ? 'And at another pressure' : 'Once more'}
          second={`the drive sees ${text(live.feedback)} now`}
          mark="M"
          testID="gauge-entry"
        />
      ) : (
        <SheetRow label="The gauge reads" second="the drive does not answer" />
      )}
      {gauges.length > 0 && <ActRow text="Begin again" onPress={() => noteGauges(tag, [])} testID="gauge-again" />}
    </>
  );
}
