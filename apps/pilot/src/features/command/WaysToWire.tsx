import { useState } from 'react';
import { inputName, jobNames, type MachineModel } from '@yare/commissioning';
import { fitJobs, schemesFor } from '@yare/commissioning/fitJobs';
import { say } from '@yare/words/pages/command';
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
              sentence={say.instead({ jobNames: jobNames[l.job], why: l.why, family: drafted.book.family, instead: l.instead })}
            />
          ))}
          {fit.lacksSpeed && <Finding severity="warning" sentence={say.hasNoProcessLoopTake({ family: drafted.book.family })} />}
          {fit.changes.length === 0 ? (
            <Finding severity="good" sentence={say.theDraftStandsLikeThis} />
          ) : (
            <ActRow
              text={say.takeItIntoTheDraft({ changes: fit.changes.length })}
              second={fit.left.length > 0 ? say.theBestThisDriveCan : say.jobsOfTheInputsStart}
              onPress={() => takeChanges(model, fit.changes)}
              testID="take-way"
            />
          )}
        </>
      )}
    </>
  );
}
