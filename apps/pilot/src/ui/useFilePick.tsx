import { useRef, type ReactElement } from 'react';

/** A file chosen by the person: what opens the choice, and the hidden input that has to stand on the page. */
export function useFilePick(of: { label: string; accept: string; testID: string; camera?: true; onFile: (file: File) => void }): {
  pick: () => void;
  input: ReactElement;
} {
  const input = useRef<HTMLInputElement>(null);
  return {
    pick: () => input.current?.click(),
    input: (
      <input
        ref={input}
        type="file"
        accept={of.accept}
        {...(of.camera && { capture: 'environment' as const })}
        aria-label={of.label}
        data-testid={of.testID}
        style={{ display: 'none' }}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) of.onFile(file);
          // the same file may be chosen again
          e.target.value = '';
        }}
      />
    ),
  };
}
