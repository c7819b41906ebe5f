import { say } from '@yare/words/pages/frame';
import { Choices } from '../ui/entry';
import { Finding } from '../ui/sheet';

/** A comma that may part decimals or thousands: asked, where no figure of the file tells. @param comma what was said; undefined where nothing was */
export function CommaRows({ doubtful, comma, onSay }: { doubtful: string | null; comma: boolean | undefined; onSay: (comma: boolean) => void }) {
  if (!doubtful) return null;
  return (
    <>
      {comma === undefined && <Finding severity="warning" sentence={say.mayBeThousandsOrThousandths({ doubtful })} />}
      <Choices
        options={[
          { value: 'decimal', label: say.aDecimalComma({ doubtful: doubtful.replace(',', '.') }) },
          { value: 'thousands', label: say.thousands({ doubtful: doubtful.replace(',', ' ') }) },
        ]}
        value={comma === undefined ? null : comma ? 'decimal' : 'thousands'}
        onChoose={(is) => onSay(is === 'decimal')}
      />
    </>
  );
}
