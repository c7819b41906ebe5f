import { ProofShape, WarningShape } from './shapes';
import { Mono } from './text';
import { usePalette } from './theme';

/** The mark of what a model says, in the margin of its line; of figures that are no longer so it says nothing. */
export function VerdictMark({ severity, past }: { severity: 'good' | 'warning' | 'error'; past: boolean }) {
  const palette = usePalette();
  if (past)
    return (
      <Mono color="$soft" fontFamily="$monoBold">
        …
      </Mono>
    );
  return severity === 'good' ? <ProofShape proof="proved" /> : <WarningShape colour={severity === 'error' ? palette.red : palette.yellow} />;
}
