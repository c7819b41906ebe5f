import ModbusRTU from 'modbus-serial';
import { findSetting, fromWord, liveValues, settingsOf, toWord, wordCounts, type Setting } from '@yare/books';
import { liveWords, type DriveBook, type LiveWord, type TuneProgress, type Word } from '@yare/contract';

export interface LinkAddress {
  host: string;
  port: number;
  unit: number;
}

/** The drive answered, but said no. */
export class DriveRefusal extends Error {
  constructor(readonly exception: number) {
    super(`The drive answered with Modbus exception ${exception}.`);
  }
}

/** The drive did not answer. */
export class LinkDown extends Error {}

const answerWithin = 700;
/** Most registers one request asks for (Modbus allows 125). */
const mostRegisters = 100;

/**
 * The one way to a drive: Modbus TCP, by its book. Requests are sent one after another; a lost connection is opened again by the
 * next request. Everything throws {@link LinkDown} when there is no answer and {@link DriveRefusal} when the answer is an exception.
 */
export class DriveLink {
  private client: ModbusRTU | null = null;
  private queue: Promise<unknown> = Promise.resolve();
  private readonly settings: readonly Setting[];
  /** settings as last read: some families' words are shares of them */
  private values: Record<string, number> = {};
  /** how many requests of anybody's were never answered */
  losses = 0;
  /** control word and reference as last commanded, in the drive's own counts; null before the first */
  private commanded: readonly [number, number] | null = null;
  /** settings the words need before anything can be understood */
  private readonly bases: readonly Setting[];

  constructor(
    readonly book: DriveBook,
    readonly size: string,
    private readonly address: LinkAddress,
  ) {
    this.settings = settingsOf(book, size);
    const words = [...Object.values(book.words.live), ...Object.values(book.words.command)];
    const roles = new Set(
      words.flatMap((w) => (w.per === 'motorFrequency' ? ['motorFrequency' as const] : w.per === 'polePairs' ? ['motorPoles' as const] : [])),
    );
    this.bases = [...roles].map((role) => findSetting(book, size, role)!);
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
    client.setID(this.address.unit);
    await client.connectTCP(this.address.host, { port: this.address.port });
    this.client = client;
    return client;
  }

  private request<T>(work: (client: ModbusRTU) => Promise<T>): Promise<T> {
    const run = async (): Promise<T> => {
      try {
        return await work(await this.open());
      } catch (error) {
        const exception = (error as { modbusCode?: number }).modbusCode;
        if (exception !== undefined && exception !== 0x0b) throw new DriveRefusal(exception);
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
      await client.writeRegister(word.register, wordCounts(this.book, this.size, this.values, word, value));
    });
  }

  /** All live words, decoded into their units. */
  async readLive(): Promise<Record<LiveWord, number>> {
    const { live } = this.book.words;
    const registers = liveWords.map((w) => live[w].register);
    const first = Math.min(...registers);
    await this.readBases();
    return liveValues(this.book, this.size, this.values, await this.read(first, Math.max(...registers) - first + 1), first);
  }

  /** Reads what the words are shares of, once for each connection and again before command is taken. */
  private async readBases(anew = false): Promise<void> {
    for (const s of this.bases) if (anew || this.values[s.code] === undefined) await this.readSetting(s);
  }

  /** Every setting of the drive, by code, in as few requests as their registers allow. */
  async readSettings(): Promise<Record<string, number>> {
    const sorted = [...this.settings].sort((a, b) => a.register - b.register);
    const values: Record<string, number> = {};
    for (let i = 0; i < sorted.length;) {
      let j = i;
      while (j + 1 < sorted.length && sorted[j + 1]!.register === sorted[j]!.register + 1 && j + 1 - i < mostRegisters) j++;
      const data = await this.read(sorted[i]!.register, j - i + 1);
      for (let k = i; k <= j; k++) values[sorted[k]!.code] = fromWord(data[k - i]!, sorted[k]!.step, sorted[k]!.signed);
      i = j + 1;
    }
    this.values = values;
    return values;
  }

  async readSetting(s: Setting): Promise<number> {
    const value = fromWord((await this.read(s.register, 1))[0]!, s.step, s.signed);
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
    const { state, progress, fault, states, faults } = this.book.words.tune!;
    // in one request, so that they belong to the same moment
    const words = [state.register, progress.register, fault.register];
    const first = Math.min(...words);
    const data = await this.read(first, Math.max(...words) - first + 1);
    const [code, share, why] = words.map((register) => data[register - first]!);
    const known = (['busy', 'done', 'failed'] as const).find((s) => states[s] === code);
    return {
      state: known ?? 'failed',
      progress: Math.min(100, share! * progress.step),
      sentence: faults.find((f) => f.code === why)?.sentence ?? null,
    };
  }

  /** Control word and reference together, which also tells the drive the link is alive. */
  command(word: number, reference: number): Promise<void> {
    const { control, reference: ref } = this.book.words.command;
    if (ref.register !== control.register + 1) throw new Error(`${this.book.family}: control and reference must be neighbours`);
    const words = [toWord(word, control.step), wordCounts(this.book, this.size, this.values, ref, reference) & 0xffff] as const;
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
