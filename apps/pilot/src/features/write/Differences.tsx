import { useState } from 'react';
import { factoryValue, storedValue, type Setting } from '@yare/books';
import type { MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/write';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { ActRow, Note, SectionHead } from '../../ui/sheet';
import { DifferenceRow } from './DifferenceRow';

const sides = ['in drive', 'factory', 'as found'] as const;
type Against = (typeof sides)[number];
const sideText = { 'in drive': say.inDrive, factory: say.factory, 'as found': say.asFound };
type Extent = 'changed' | 'chosen' | 'all';

/** The other side's value of a setting. */
const valueOf = (model: MachineModel, against: Against, s: Setting): number | undefined =>
  against === 'factory'
    ? factoryValue(s, model.machine.region)
    : (against === 'in drive' ? model.inDriveOf(s.code) : model.asFound?.values[s.code])?.value;

/** How much of the draft is to be written: what differs, some of it, or every setting. */
export function useExtent(model: MachineModel) {
  const [extent, setExtent] = useState<Extent>('changed');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const { differing } = model;
  const writable = model.drafted.all.filter((s) => s.access !== 'read');
  const toWrite = extent === 'all' ? writable : extent === 'chosen' ? differing.filter((s) => !left.has(s.code)) : differing;
  const turnOver = (code: string) =>
    setLeft((was) => {
      const now = new Set(was);
      if (!now.delete(code)) now.add(code);
      return now;
    });
  return { extent, setExtent, left, turnOver, writable, toWrite };
}

/** What stands where draft and the other side are the same. */
function nothingDiffers(model: MachineModel, against: Against): string {
  if (against === 'in drive') return say.draftAndDriveAgreeIn({ all: model.drafted.all.length });
  return against === 'as found' && !model.asFound ? say.theDriveWasNotRead : say.noDifference;
}

/** The draft against another side, line by line, and how much of it is to be written. */
export function Differences({ model, reported, extents }: { model: MachineModel; reported: boolean; extents: ReturnType<typeof useExtent> }) {
  const [against, setAgainst] = useState<Against>('in drive');
  const { extent, setExtent, left, turnOver, writable } = extents;
  const { differing } = model;
  const toDrive = against === 'in drive';
  const shown = toDrive ? differing : writable.filter((s) => storedValue(s, model.draftOf(s.code).value) !== valueOf(model, against, s));
  const choosing = extent === 'chosen' && toDrive;
  return (
    <>
      <Segments
        label={say.theDraftAgainst}
        options={sides.map((a) => ({ value: a, text: sideText[a], testID: `against-${a.replace(' ', '-')}` }))}
        value={against}
        onChoose={setAgainst}
      />
      {!model.inDrive && <Note>{say.theDriveWasNotRead2}</Note>}
      <SectionHead right={shown.length > 0 ? say.ofSettings({ shown: shown.length, all: model.drafted.all.length }) : undefined}>
        {!toDrive
          ? say.theDraftIsNotAs({ against })
          : reported
            ? shown.length > 0
              ? say.stillDiffering
              : say.whatDiffers
            : say.willChangeInTheDrive}
      </SectionHead>
      {shown.length === 0 && (!toDrive || model.inDrive) && <Note>{nothingDiffers(model, against)}</Note>}
      {shown.map((s) => (
        <DifferenceRow
          key={s.code}
          model={model}
          setting={s}
          against={{ name: against, value: valueOf(model, against, s) }}
          {...(choosing && { chosen: !left.has(s.code), onChoose: () => turnOver(s.code) })}
        />
      ))}
      {toDrive && model.inDrive && (
        <>
          <SectionHead>{say.howMuchToWrite}</SectionHead>
          <Segments
            label={say.howMuchToWrite}
            options={[
              { value: 'changed', text: say.whatDiffers, second: String(differing.length), testID: 'extent-changed' },
              { value: 'chosen', text: say.chosen, second: say.oneByOne, testID: 'extent-chosen' },
              { value: 'all', text: say.all, second: String(writable.length), testID: 'extent-all' },
            ]}
            value={extent}
            onChoose={setExtent}
          />
          <ActRow text={say.compareWithSomethingElse} second={say.aRevisionAnotherMachine} onPress={() => go(`/m/${model.machine.tag}/compare`)} />
        </>
      )}
    </>
  );
}
