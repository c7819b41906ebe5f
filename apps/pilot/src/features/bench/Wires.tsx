import { Fragment, useState } from 'react';
import type { BenchAct, WireFault } from '@yare/contract';
import { say } from '@yare/words/pages/bench';
import { useBenchPart } from '../../data/bench';
import { Choices } from '../../ui/entry';
import { ActRow, SectionHead, SheetRow } from '../../ui/sheet';
import { WarningShape } from '../../ui/shapes';
import { usePalette } from '../../ui/theme';

type Kind = WireFault['kind'];

const kinds: ReadonlyArray<{ value: Kind; label: string; is: (f: WireFault) => string }> = [
  { value: 'cut', label: say.cutIt, is: () => 'cut' },
  { value: 'bridge', label: say.bridgeItToTheSupply, is: () => 'always closed' },
  { value: 'swap', label: say.changeItOverWithThe, is: (f) => (f.kind === 'swap' ? say.changedOverWith({ b: f.b }) : '') },
  { value: 'invert', label: say.fitAContactOfThe, is: () => say.contactOfTheOtherKind },
  { value: 'bounce', label: say.loosenIt, is: () => say.looseItChatters },
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
      <SectionHead right={wrong === 0 ? say.asDrawn : say.notAsDrawn({ wrong, unseenFaults })}>{say.wiresOfThePanel}</SectionHead>
      {wires.map(({ terminal, to }) => {
        const fault = wireFaults.find((f) => f.a === terminal || (f.kind === 'swap' && f.b === terminal));
        return (
          <Fragment key={terminal}>
            <SheetRow
              label={say.to({ terminal, to })}
              second={fault ? faultText(fault) : say.sound}
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
        text={say.layOneWrongAndDo}
        second={say.forWhoeverWantsToFind}
        onPress={() => onAct({ wires: { act: 'strike unseen', kind: kinds[Math.floor(Math.random() * kinds.length)]?.value ?? 'cut' } })}
        testID="wire-untold"
      />
      <ActRow text={say.putEveryWireRight} onPress={() => onAct({ wires: { act: 'put right' } })} disabled={wrong === 0} testID="wires-right" />
      <ActRow
        text={say.buildThePanelAnewFor}
        second={say.buttonsSwitchesAndKnobsAs}
        onPress={() => onAct({ wires: { act: 'build anew' } })}
        testID="wires-anew"
      />
    </>
  );
}
