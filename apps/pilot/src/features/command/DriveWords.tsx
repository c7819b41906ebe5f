import type { DriveSettings } from '@yare/books';
import { holdNames, inputIds } from '@yare/commissioning';
import { bitsOf } from '@yare/core';
import { say } from '@yare/words/pages/command';
import type { CommandNow } from '../../data/commandNow';
import { SheetRow } from '../../ui/sheet';

const hex = (word: number): string => `0x${word.toString(16).toUpperCase().padStart(4, '0')}`;

/** What the drive says word by word, decoded, with the raw word and its register beside it. */
export function DriveWords({ held, now }: { held: DriveSettings; now: CommandNow }) {
  const { live } = held.book.words;
  const { told, words } = now;
  const rows = [
    { id: 'mode', label: say.mode, text: told.mode, raw: words.mode, register: live.mode.register },
    { id: 'started', label: say.startFrom, text: told.start, raw: words.startedBy, register: live.startedBy.register },
    { id: 'speed', label: say.speedFrom, text: told.speed, raw: words.speedBy, register: live.speedBy.register },
    {
      id: 'held',
      label: say.heldBackBy,
      text: told.held.length === 0 ? 'nothing' : told.held.map((h) => holdNames[h]).join(', '),
      raw: words.heldBack,
      register: live.heldBack.register,
    },
    {
      id: 'inputs',
      label: say.inputsClosed,
      text:
        inputIds(held)
          .filter((_id, i) => now.inputs.closed[i])
          .join(' ') || 'none',
      raw: words.inputs,
      register: live.inputs.register,
    },
    {
      id: 'outputs',
      label: say.outputsOn,
      text:
        held.outputs
          .flatMap((s, i) => ((words.outputs & bitsOf(held.outputs.map((_s, n) => n === i))) !== 0 ? [s.role?.replace('relay ', '') ?? s.name] : []))
          .join(' ') || 'none',
      raw: words.outputs,
      register: live.outputs.register,
    },
  ];
  return rows.map((r) => (
    <SheetRow key={r.id} label={r.label} second={say.register({ register: r.register, hex: hex(r.raw) })} text={r.text} testID={`word-${r.id}`} />
  ));
}
