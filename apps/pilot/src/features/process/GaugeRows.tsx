import { Fragment } from 'react';
import { readingOf, sensorDecimals, sensorProof, type MachineModel } from '@yare/commissioning';
import { gaugeCheck, gaugeText, type AtGauge } from '@yare/commissioning/steady';
import { formatFigure, type ProcessSensor } from '@yare/core';
import { proofText } from '@yare/words';
import { say } from '@yare/words/pages/process';
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
    label: say.theGaugeReads,
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
      <SectionHead right={standing.state === 'passed' ? say.agrees : say.twoPoints}>{say.sensorAgainstAGauge}</SectionHead>
      <Refusal of={prove.error} />
      {standing.state === 'passed' && newest && gauges.length === 0 && (
        <Finding severity="good" sentence={say.itAgreesWithAGauge({ author: newest.author, when: when(newest.at), proofText: proofText(newest) })} />
      )}
      {gauges.map((g, i) => (
        <Fragment key={`${g.gauge} ${g.seen}`}>
          <SheetRow
            label={i === 0 ? say.firstPoint : say.secondPoint}
            second={say.theDriveSaw({ text: text(g.seen) })}
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
            act: say.setTheRangeToTo({ low: check.fits.low, high: check.fits.high, unit: sensor.unit }),
            onAct: () => {
              setSensor({ ...sensor, ...check.fits });
              noteGauges(tag, []);
            },
          })}
          {...(said.severity === 'good' && {
            act: say.countItTheSensorAgrees,
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
          label={gauges.length === 0 ? say.theGaugeReads : gauges.length === 1 ? say.andAtAnotherPressure : say.onceMore}
          second={say.theDriveSeesNow({ text: text(live.feedback) })}
          mark="M"
          testID="gauge-entry"
        />
      ) : (
        <SheetRow label={say.theGaugeReads} second={say.theDriveDoesNotAnswer} />
      )}
      {gauges.length > 0 && <ActRow text={say.beginAgain} onPress={() => noteGauges(tag, [])} testID="gauge-again" />}
    </>
  );
}
