import type { Survey } from '@yare/contract';
import { say } from '@yare/words/pages/before-power';
import { Segments } from '../../ui/Segments';
import { Note } from '../../ui/sheet';

type Winding = NonNullable<NonNullable<Survey['insulation']>['winding']>;

/** What the winding is insulated with: its reading falls with heat by another law. */
export function WindingKind({ survey, set }: { survey: Survey; set: (change: Partial<Survey>) => void }) {
  const now = survey.insulation;
  return (
    <>
      <Segments
        label={say.insulationOfTheWinding}
        options={[
          { value: 'thermosetting', text: say.resin, testID: 'winding-thermosetting' },
          { value: 'thermoplastic', text: say.oldVarnish, testID: 'winding-thermoplastic' },
          { value: 'unknown', text: say.notKnown, testID: 'winding-unknown' },
        ]}
        value={now?.winding ?? 'unknown'}
        onChoose={(w) =>
          set({
            insulation: { reading: now?.reading ?? null, temperature: now?.temperature ?? 20, winding: w === 'unknown' ? null : (w as Winding) },
          })
        }
      />
      <Note>{say.mostMotorsSinceAboutAre}</Note>
    </>
  );
}
