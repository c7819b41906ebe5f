import type { Survey } from '@yare/contract';
import { Segments } from '../../ui/Segments';
import { Note } from '../../ui/sheet';

type Winding = NonNullable<NonNullable<Survey['insulation']>['winding']>;

/** What the winding is insulated with: its reading falls with heat by another law. */
export function WindingKind({ survey, set }: { survey: Survey; set: (change: Partial<Survey>) => void }) {
  const now = survey.insulation;
  return (
    <>
      <Segments
        label="Insulation of the winding"
        options={[
          { value: 'thermosetting', text: 'Resin', testID: 'winding-thermosetting' },
          { value: 'thermoplastic', text: 'Old varnish', testID: 'winding-thermoplastic' },
          { value: 'unknown', text: 'Not known', testID: 'winding-unknown' },
        ]}
        value={now?.winding ?? 'unknown'}
        onChoose={(w) =>
          set({
            insulation: { reading: now?.reading ?? null, temperature: now?.temperature ?? 20, winding: w === 'unknown' ? null : (w as Winding) },
          })
        }
      />
      <Note>
        Most motors since about 1970 are wound in resin (thermosetting). Old varnish (thermoplastic) loses far more of its reading with heat.
      </Note>
    </>
  );
}
