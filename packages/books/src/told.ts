import type { DriveBook } from '@yare/contract';
import {
  commandModes,
  doings,
  guardKinds,
  holdBacks,
  speedGivers,
  startGivers,
  type CommandMode,
  type Doing,
  type GuardKind,
  type HoldBack,
  type SpeedGiver,
  type StartGiver,
} from '@yare/core';

/** The words in which a drive says who has command, as they came over the link. */
export interface CommandWords {
  mode: number;
  startedBy: number;
  speedBy: number;
  heldBack: number;
}

/** What those words say. */
export interface Told {
  mode: CommandMode;
  start: StartGiver;
  speed: SpeedGiver;
  /** the first to be seen to first */
  held: HoldBack[];
}

const named = <N extends string>(names: readonly N[], codes: Readonly<Record<string, number>>, word: number, otherwise: N): N =>
  names.find((n) => codes[n] === word) ?? otherwise;

/** Decodes a family's own words of command. A code the book does not list is taken as nothing in force. */
export function toldOf({ told }: Pick<DriveBook, 'told'>, w: CommandWords): Told {
  return {
    mode: named(commandModes, told.mode, w.mode, 'off'),
    start: named(startGivers, told.start, w.startedBy, 'nothing'),
    speed: named(speedGivers, told.speed, w.speedBy, 'keypad'),
    held: holdBacks.filter((h) => ((w.heldBack >> (told.held[h] ?? 31)) & 1) === 1),
  };
}

/** What a drive does by itself, what it warns of or rests for, and the pumps of its station that are to run, by number. */
export interface ToldDoing {
  doing: Doing;
  warns: Array<GuardKind | 'filter'>;
  pumps: number[];
}

/** Most pumps a station has. */
const mostPumps = 4;

/** Decodes a family's own words of what it does by itself; a family without them does nothing by itself. */
export function doingOf({ told }: Pick<DriveBook, 'told'>, w: { doing: number; warns: number; pumpsOn: number }): ToldDoing {
  const bits = told.warns ?? {};
  return {
    doing: named(doings, told.doing ?? {}, w.doing, 'nothing'),
    warns: [...guardKinds, 'filter' as const].filter((k) => ((w.warns >> (bits[k] ?? 31)) & 1) === 1),
    pumps: Array.from({ length: mostPumps }, (_, i) => i + 1).filter((n) => ((w.pumpsOn >> (n - 1)) & 1) === 1),
  };
}
