import { useRef, type ReactElement } from 'react';

/** A file chosen by the person: what opens the choice, and the hidden input that has to stand on the page. */
export function useFilePick(of: {
  label: string;
  accept: string;
  testID: string;
  camera?: true;
  several?: true;
  onFile: (file: File, all: readonly File[]) => void;
}): {
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
        multiple={of.several}
        {...(of.camera && { capture: 'environment' as const })}
        aria-label={of.label}
        data-testid={of.testID}
        style={{ display: 'none' }}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          if (files[0]) of.onFile(files[0], files);
          // the same file may be chosen again
          e.target.value = '';
        }}
      />
    ),
  };
}
