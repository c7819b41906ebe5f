import { Choices } from '../ui/entry';
import { Finding } from '../ui/sheet';

/** A comma that may part decimals or thousands: asked, where no figure of the file tells. @param comma what was said; undefined where nothing was */
export function CommaRows({ doubtful, comma, onSay }: { doubtful: string | null; comma: boolean | undefined; onSay: (comma: boolean) => void }) {
  if (!doubtful) return null;
  return (
    <>
      {comma === undefined && (
        <Finding severity="warning" sentence={`“${doubtful}” may be thousands or thousandths: no other figure of the file tells. Say which.`} />
      )}
      <Choices
        options={[
          { value: 'decimal', label: `${doubtful.replace(',', '.')}: a decimal comma` },
          { value: 'thousands', label: `${doubtful.replace(',', ' ')}: thousands` },
        ]}
        value={comma === undefined ? null : comma ? 'decimal' : 'thousands'}
        onChoose={(is) => onSay(is === 'decimal')}
      />
    </>
  );
}
