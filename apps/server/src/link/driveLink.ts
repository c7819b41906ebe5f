import ModbusRTU from 'modbus-serial';
import {
  allBooks,
  fromWord,
  readMemory,
  readTrace,
  toWord,
  type DriveSettings,
  type RememberedTrace,
  type RememberedTrip,
  type Setting,
} from '@yare/books';
import { type DriveBook, type DriveIdentity, type LiveWord, type TuneProgress, type Word } from '@yare/contract';

export interface LinkAddress {
  host: string;
  port: number;
  /** Modbus unit identifier */
  unitId: number;
}

/** The drive answered, but said no. */
export class DriveRefusal extends Error {
  constructor(readonly exception: number) {
    super(`The drive answered with Modbus exception ${exception}.`);
  }
}

/** What answers says that it is another drive than on record. */
export class AnotherDrive extends DriveRefusal {
  constructor(readonly says: DriveIdentity) {
    super(0);
    this.message = `${says.family} ${says.size} answers.`;
  }
}

/** The drive did not answer. */
export class LinkDown extends Error {}

const answerWithin = 700;
/** Most registers one request asks for (Modbus allows 125). */
const mostRegisters = 100;

/** Which objects of the identification are asked for, and their numbers in it. */
const regularIdentification = 2;
const productCode = 1;
const modelName = 5;

/** The exception a gateway gives for a unit that does not answer (Modbus Application Protocol V1.1b3, section 7). */
const gatewaySilent = 0x0b;

/** The Modbus exception in an error; null when it is none. */
const modbusCodeOf = (error: unknown): number | null =>
  typeof error === 'object' && error !== null && 'modbusCode' in error && typeof error.modbusCode === 'number' ? error.modbusCode : null;

/** Settings whose registers follow one another, in as few requests as a frame allows. */
function blocksOf(settings: readonly Setting[]): Array<{ first: number; settings: Setting[] }> {
  const blocks: Array<{ first: number; settings: Setting[] }> = [];
  for (const s of [...settings].sort((a, b) => a.register - b.register)) {
    const last = blocks.at(-1);
    if (last && s.register === last.first + last.settings.length && last.settings.length < mostRegisters) last.settings.push(s);
    else blocks.push({ first: s.register, settings: [s] });
  }
  return blocks;
}

/**
 * The one way to a drive: Modbus TCP, by its book. Requests are sent one after another; a lost connection is opened again by the
 * next request. Everything throws {@link LinkDown} when there is no answer and {@link DriveRefusal} when the answer is an exception.
 */
export class DriveLink {
  private client: ModbusRTU | null = null;
  private queue: Promise<unknown> = Promise.resolve();
  /** settings as last read: some families' words are shares of them */
  private values: Record<string, number> = {};
  /** how many requests of anybody's were never answered */
  losses = 0;
  /** control word and reference as last commanded, in the drive's own counts; null before the first */
  private commanded: readonly [number, number] | null = null;
  /** what this connection's drive says it is; null where it does not say, or no book knows it */
  private identity: DriveIdentity | null = null;
  /** whether the question what it is may be asked, or was left without an answer by a drive that answers others */
  private identifying: 'asked' | 'unanswered' | 'never' = 'asked';
  /** settings the words need before anything can be understood */
  private readonly bases: readonly Setting[];

  /** @param drive which family and size is spoken with; its values are read anew */
  constructor(
    private readonly drive: DriveSettings,
    private readonly address: LinkAddress,
  ) {
    const { book } = drive;
    const words = [...Object.values(book.words.live), ...Object.values(book.words.command)];
    const roles = new Set(
      words.flatMap((w) => (w.per === 'motorFrequency' ? ['motorFrequency' as const] : w.per === 'polePairs' ? ['motorPoles' as const] : [])),
    );
    this.bases = drive.having([...roles]);
  }

  get book(): DriveBook {
    return this.drive.book;
  }

  /** The drive with its settings as last read. */
  get settings(): DriveSettings {
    return this.drive.with(this.values);
  }

  close(): void {
    const client = this.client;
    this.client = null;
    this.values = {};
    client?.close(() => undefined);
  }

  private async open(): Promise<ModbusRTU> {
    if (this.client?.isOpen) return this.client;
    this.close();
    const client = new ModbusRTU();
    client.on('error', () => undefined);
    client.setTimeout(answerWithin);
    client.setID(this.address.unitId);
    await client.connectTCP(this.address.host, { port: this.address.port });
    this.client = client;
    if (this.identifying !== 'never') this.identity = await this.identify(client);
    return client;
  }

  /** Asks what stands there (Read Device Identification, Modbus Application Protocol V1.1b3, section 6.21): ModelName and ProductCode. */
  private async identify(client: ModbusRTU): Promise<DriveIdentity | null> {
    try {
      const { data } = await client.readDeviceIdentification(regularIdentification, 0);
      const { [modelName]: family, [productCode]: size } = data;
      this.identifying = 'asked';
      const book = allBooks().find((b) => b.family === family && b.ratings.some((r) => r.size === size));
      return book && size ? { bookId: book.id, family: book.family, size } : null;
    } catch (error) {
      const exception = modbusCodeOf(error);
      if (exception === gatewaySilent) throw error;
      this.identifying = exception === null ? 'unanswered' : 'asked';
      return null;
    }
  }

  /** What answers, when it says that it is another drive than this link is for. */
  private get another(): DriveIdentity | null {
    const { identity } = this;
    return identity && (identity.bookId !== this.book.id || identity.size !== this.drive.size) ? identity : null;
  }

  private request<T>(work: (client: ModbusRTU) => Promise<T>): Promise<T> {
    const run = async (): Promise<T> => {
      try {
        const client = await this.open();
        if (this.another) throw new AnotherDrive(this.another);
        const answer = await work(client);
        if (this.identifying === 'unanswered') this.identifying = 'never';
        return answer;
      } catch (error) {
        if (error instanceof AnotherDrive) throw error;
        const exception = modbusCodeOf(error);
        if (exception !== null && exception !== gatewaySilent) throw new DriveRefusal(exception);
        this.close();
        this.losses += 1;
        throw new LinkDown('The drive does not answer.');
      }
    };
    const result = this.queue.then(run, run);
    this.queue = result.catch(() => undefined);
    return result;
  }

  private read(register: number, count: number): Promise<number[]> {
    return this.request(async (client) => (await client.readHoldingRegisters(register, count)).data);
  }

  private write(word: Word, value: number): Promise<void> {
    return this.request(async (client) => {
      await client.writeRegister(word.register, this.settings.wordCounts(word, value));
    });
  }

  /** All live words, decoded into their units. */
  async readLive(): Promise<Record<LiveWord, number>> {
    const { live } = this.book.words;
    const registers = Object.values(live).map((w) => w.register);
    const first = Math.min(...registers);
    await this.readBases();
    const data = await this.read(first, Math.max(...registers) - first + 1);
    return this.settings.liveValues(data, first);
  }

  /** Reads what the words are shares of, once for each connection and again before command is taken. */
  private async readBases(anew = false): Promise<void> {
    for (const s of this.bases) if (anew || this.values[s.code] === undefined) await this.readSetting(s);
  }

  /** Every setting of the drive, by code, in as few requests as their registers allow. */
  async readSettings(): Promise<Record<string, number>> {
    const blocks = blocksOf(this.drive.all);
    const values: Record<string, number> = {};
    for (const block of blocks) {
      const data = await this.read(block.first, block.settings.length);
      block.settings.forEach((s, n) => (values[s.code] = fromWord(data[n] ?? 0, s.step, s.signed)));
    }
    this.values = values;
    return values;
  }

  async readSetting(s: Setting): Promise<number> {
    const [word = 0] = await this.read(s.register, 1);
    const value = fromWord(word, s.step, s.signed);
    this.values[s.code] = value;
    return value;
  }

  async writeSetting(s: Setting, value: number): Promise<void> {
    await this.request(async (client) => {
      await client.writeRegister(s.register, toWord(value, s.step));
    });
    this.values[s.code] = value;
  }

  /** Why the drive last refused, in the book's words. */
  async refusalSentence(): Promise<string> {
    const code = (await this.readLive()).lastRefusal;
    return this.book.refusals.find((r) => r.code === code)?.sentence ?? 'it gives no reason';
  }

  /** Stores working memory through power-off and checks that the drive says so. */
  async keep(): Promise<boolean> {
    const { command, codes } = this.book.words;
    await this.write(command.keep, codes.keep);
    return (await this.readLive()).unkept === 0;
  }

  async takeCommand(): Promise<void> {
    await this.readBases(true);
    this.commanded = null;
    return this.write(this.book.words.command.take, this.book.words.codes.take);
  }

  giveCommand(): Promise<void> {
    return this.write(this.book.words.command.take, this.book.words.codes.give);
  }

  /** Begins to measure the motor; command must be held. @throws LinkDown, DriveRefusal; Error when the family cannot */
  beginTune(kind: TuneProgress['kind']): Promise<void> {
    const { tune } = this.book.words;
    if (!tune) throw new Error(`${this.book.family} cannot measure a motor`);
    return this.write(tune.command, tune.codes[kind]);
  }

  /** How measuring goes, and why it failed. */
  async readTune(): Promise<Omit<TuneProgress, 'kind'> & { sentence: string | null }> {
    const { tune } = this.book.words;
    if (!tune) throw new Error(`${this.book.family} cannot measure a motor`);
    const { state, progress, fault, states, faults } = tune;
    // in one request, so that they belong to the same moment
    const words = [state.register, progress.register, fault.register];
    const first = Math.min(...words);
    const data = await this.read(first, Math.max(...words) - first + 1);
    const [code, share = 0, why] = words.map((register) => data[register - first]);
    const known = (['busy', 'done', 'failed'] as const).find((s) => states[s] === code);
    return {
      state: known ?? 'failed',
      progress: Math.min(100, share * progress.step),
      sentence: faults.find((f) => f.code === why)?.sentence ?? null,
    };
  }

  /** Registers that follow one another, in as many requests as they take. */
  private async readMany(first: number, count: number): Promise<number[]> {
    const all: number[] = [];
    for (let at = 0; at < count; at += mostRegisters) all.push(...(await this.read(first + at, Math.min(mostRegisters, count - at))));
    return all;
  }

  /** How many trips the drive ever had, as far as a word counts. */
  async readTripCount(): Promise<number> {
    const [counted = 0] = await this.read(this.book.words.memory.trips.register, 1);
    return counted;
  }

  /** The trips the drive remembers, newest first. */
  async readMemory(): Promise<RememberedTrip[]> {
    await this.readBases();
    const { first, stride, count } = this.book.words.memory;
    return readMemory(this.settings, await this.readMany(first, stride * count));
  }

  /** The moments before its newest trip at full rate; null where the family keeps none, or it has tripped again meanwhile. */
  async readTrace(): Promise<RememberedTrace | null> {
    await this.readBases();
    const { trace } = this.book.words.memory;
    if (!trace) return null;
    const before = await this.readTripCount();
    const [length = 0] = await this.read(trace.length.register, 1);
    const data = await this.readMany(trace.first, length * trace.channels.length);
    return before === (await this.readTripCount()) && length > 0 ? readTrace(this.settings, data) : null;
  }

  /** Control word and reference together, which also tells the drive the link is alive. */
  command(word: number, reference: number): Promise<void> {
    const { control, reference: ref } = this.book.words.command;
    if (ref.register !== control.register + 1) throw new Error(`${this.book.family}: control and reference must be neighbours`);
    const words = [toWord(word, control.step), this.settings.wordCounts(ref, reference) & 0xffff] as const;
    this.commanded = words;
    return this.request(async (client) => {
      await client.writeRegisters(control.register, [...words]);
    });
  }

  /** Whether the drive still holds the control word and reference last commanded here; another master's would stand there instead. */
  async commandIsOurs(): Promise<boolean> {
    if (this.commanded === null) return true;
    const [control, reference] = await this.read(this.book.words.command.control.register, 2);
    return control === this.commanded[0] && reference === this.commanded[1];
  }
}
