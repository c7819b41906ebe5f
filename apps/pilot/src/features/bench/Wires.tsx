import { Fragment, useState } from 'react';
import type { BenchAct, WireFault } from '@yare/contract';
import { useBenchPart } from '../../data/bench';
import { Choices } from '../../ui/entry';
import { ActRow, SectionHead, SheetRow } from '../../ui/sheet';
import { WarningShape } from '../../ui/shapes';
import { usePalette } from '../../ui/theme';

type Kind = WireFault['kind'];

const kinds: ReadonlyArray<{ value: Kind; label: string; is: (f: WireFault) => string }> = [
  { value: 'cut', label: 'Cut it', is: () => 'cut' },
  { value: 'bridge', label: 'Bridge it to the supply', is: () => 'always closed' },
  { value: 'swap', label: 'Change it over with the next one', is: (f) => (f.kind === 'swap' ? `changed over with ${f.b}` : '') },
  { value: 'invert', label: 'Fit a contact of the other kind', is: () => 'contact of the other kind' },
  { value: 'bounce', label: 'Loosen it', is: () => 'loose: it chatters' },
];

const faultText = (f: WireFault): string => kinds.find((k) => k.value === f.kind)?.is(f) ?? f.kind;

/** The wires between panel and drive: each can be laid wrong, one somewhere untold, and all put right or built anew for the drive's jobs. */
export function Wires({ tag, onAct }: { tag: string; onAct: (act: Omit<BenchAct, 'author'>) => void }) {
  const palette = usePalette();
  const view = useBenchPart(tag, ({ wires, wireFaults, unseenFaults }) => ({ wires, wireFaults, unseenFaults }));
  const [open, setOpen] = useState<string | null>(null);
  if (!view) return null;
  const { wires, wireFaults, unseenFaults } = view;
  const wrong = wireFaults.length + unseenFaults;
  const lay = (kind: Kind, a: string) => {
    setOpen(null);
    const at = wires.findIndex((w) => w.terminal === a);
    const b = wires[(at + 1) % wires.length]?.terminal ?? a;
    onAct({ wires: { act: 'strike', fault: kind === 'swap' ? { kind, a, b } : { kind, a } } });
  };
  return (
    <>
      <SectionHead right={wrong === 0 ? 'as drawn' : `${wrong} not as drawn${unseenFaults > 0 ? `, ${unseenFaults} untold` : ''}`}>
        Wires of the panel
      </SectionHead>
      {wires.map(({ terminal, to }) => {
        const fault = wireFaults.find((f) => f.a === terminal || (f.kind === 'swap' && f.b === terminal));
        return (
          <Fragment key={terminal}>
            <SheetRow
              label={`${terminal} to ${to}`}
              second={fault ? faultText(fault) : 'sound'}
              mark={fault ? <WarningShape colour={palette.yellow} /> : undefined}
              inHand={open === terminal}
              onPress={() => setOpen(open === terminal ? null : terminal)}
              testID={`wire-of-${terminal}`}
            />
            {open === terminal && <Choices options={kinds} value={null} onChoose={(kind) => lay(kind as Kind, terminal)} />}
          </Fragment>
        );
      })}
      <ActRow
        text="Lay one wrong and do not say which"
        second="for whoever wants to find it with Try wire by wire"
        onPress={() => onAct({ wires: { act: 'strike unseen', kind: kinds[Math.floor(Math.random() * kinds.length)]?.value ?? 'cut' } })}
        testID="wire-untold"
      />
      <ActRow text="Put every wire right" onPress={() => onAct({ wires: { act: 'put right' } })} disabled={wrong === 0} testID="wires-right" />
      <ActRow
        text="Build the panel anew for the drive’s jobs"
        second="buttons, switches and knobs as the inputs in the drive ask for; with the machine at rest"
        onPress={() => onAct({ wires: { act: 'build anew' } })}
        testID="wires-anew"
      />
    </>
  );
}
