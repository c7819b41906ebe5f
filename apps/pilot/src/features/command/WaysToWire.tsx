import { useState } from 'react';
import { inputName, jobNames, type MachineModel } from '@yare/commissioning';
import { fitJobs, schemesFor } from '@yare/commissioning/fitJobs';
import { takeChanges } from '../../machine/takeChanges';
import { ActRow, Finding, SheetRow } from '../../ui/sheet';
import { Choices } from '../../ui/entry';

/** What somebody wants the terminals to do, what of it this drive can, and the best that can be had: taken into the draft in one tap. */
export function WaysToWire({ model }: { model: MachineModel }) {
  const { drafted } = model;
  const [chosen, setChosen] = useState<string | null>(null);
  const schemes = schemesFor(drafted);
  const scheme = schemes.find((s) => s.id === chosen);
  const fit = scheme && fitJobs(drafted, scheme);
  return (
    <>
      <Choices
        options={schemes.map((s) => ({ value: s.id, label: s.name }))}
        value={chosen}
        onChoose={(id) => setChosen(typeof id === 'string' ? id : null)}
      />
      {scheme && fit && (
        <>
          {fit.placed.map((p) => (
            <SheetRow
              key={p.setting.code}
              label={jobNames[p.job]}
              second={`${p.setting.name} ${p.setting.code}`}
              text={inputName(drafted, p.input)}
            />
          ))}
          {fit.left.map((l) => (
            <Finding
              key={l.job}
              severity="warning"
              sentence={`${jobNames[l.job]}: ${l.why === 'never' ? `no input of ${drafted.book.family} does it` : `no input is left for it`}. Instead: ${l.instead}.`}
            />
          ))}
          {fit.lacksSpeed && (
            <Finding severity="warning" sentence={`${drafted.book.family} has no process loop: take the speed from a signal or a preset.`} />
          )}
          {fit.changes.length === 0 ? (
            <Finding severity="good" sentence="The draft stands like this already." />
          ) : (
            <ActRow
              text={`Take it into the draft: ${fit.changes.length} ${fit.changes.length === 1 ? 'setting' : 'settings'}`}
              second={fit.left.length > 0 ? 'the best this drive can do of it' : 'jobs of the inputs, start and speed source'}
              onPress={() => takeChanges(model, fit.changes)}
              testID="take-way"
            />
          )}
        </>
      )}
    </>
  );
}
