import { bookById, DriveSettings } from '@yare/books';
import type { LiveSample } from '@yare/contract';
import { DriveState, statusWord, present } from '@yare/core';
import { startBench } from '../../bench/src/bench';
import getPort from 'get-port';
import { ServerTCP } from 'modbus-serial';
import { AnotherDrive, DriveLink, DriveRefusal, LinkDown } from '../src/link/driveLink';
import { Fleet, stateOf } from '../src/link/fleet';
import { Claims } from '../src/claims';
import { until } from './stack';

const book = bookById('osier-g');
const factory = new DriveSettings(book, 'G7.5', {}, 50);
const setting = (code: string) => present(factory.at(code));

test('every drive state has its word on the state strip', () => {
  const words = Object.fromEntries(Object.entries(DriveState).map(([name, s]) => [name, stateOf(statusWord(s, false), 10)]));
  expect(words).toEqual({
    notReady: 'held',
    switchOnDisabled: 'held',
    ready: 'ready',
    switchedOn: 'ready',
    operationEnabled: 'running',
    quickStop: 'stopping',
    faultReaction: 'tripped',
    fault: 'tripped',
  });
  expect(stateOf(statusWord(DriveState.operationEnabled, false), 0)).toBe('stopping');
});

// real sockets in real time: a computer that stalls longer than the answer may take is given another try
jest.retryTimes(2, { logErrorsBeforeRetry: true });
let port: number;
const ends: Array<() => Promise<void>> = [];
beforeEach(async () => {
  port = await getPort({ host: '127.0.0.1' });
});
afterEach(async () => {
  for (const end of ends.splice(0)) await end().catch(() => undefined);
});
const start = async () => {
  const bench = await startBench({ host: '127.0.0.1', port, seed: 3 });
  ends.push(() => bench.stop());
  const probe = new DriveLink(factory, { host: '127.0.0.1', port, unitId: 1 });
  await until(() =>
    probe.readLive().then(
      () => true,
      () => false,
    ),
  );
  probe.close();
  return bench;
};

describe('over Modbus TCP', () => {
  test('reads every setting in as many requests as there are groups, and writes one', async () => {
    const bench = await start();
    const link = new DriveLink(factory, { host: '127.0.0.1', port, unitId: 1 });
    const values = await link.readSettings();
    const drive = present(bench.drives.get(1));
    expect(Object.keys(values)).toHaveLength(book.settings.length);
    for (const [code, value] of Object.entries(values))
      if (setting(code).access !== 'read') expect([code, value]).toEqual([code, drive.values[code]]);
    await link.writeSetting(setting('9a'), -12.5);
    expect(drive.values['9a']).toBe(-12.5);
    expect(await link.readSetting(setting('9a'))).toBe(-12.5);
    expect((await link.readLive()).unkept).toBe(1);
    expect(await link.keep()).toBe(true);
    link.close();
  });

  test('a refusal is told apart from silence, with the drive’s own reason', async () => {
    await start();
    const link = new DriveLink(factory, { host: '127.0.0.1', port, unitId: 1 });
    await expect(link.writeSetting(setting('2a'), 300)).rejects.toBeInstanceOf(DriveRefusal);
    expect(await link.refusalSentence()).toBe('the value contradicts another setting');
    const nobody = new DriveLink(factory, { host: '127.0.0.1', port, unitId: 99 });
    await expect(nobody.readLive()).rejects.toBeInstanceOf(LinkDown);
    nobody.close();
    link.close();
  });

  test('a drive that goes and comes back is found again by the next request', async () => {
    const bench = await start();
    const link = new DriveLink(factory, { host: '127.0.0.1', port, unitId: 1 });
    await link.readLive();
    await bench.stop();
    await expect(link.readLive()).rejects.toBeInstanceOf(LinkDown);
    await start();
    expect((await link.readLive()).busVoltage).toBeGreaterThan(500);
    link.close();
  });
});

describe('what stands at an address', () => {
  const speaks = { getHoldingRegister: () => 7 };
  /** A drive that answers every register, and the question what it is as it likes. */
  const answering = async (identification?: () => Promise<Record<number, string>>) => {
    const vector = { ...speaks, ...(identification && { readDeviceIdentification: identification }) };
    const server = new ServerTCP(vector as unknown as ConstructorParameters<typeof ServerTCP>[0], { host: '127.0.0.1', port });
    ends.push(() => new Promise((done) => server.close(() => done())));
    await new Promise((done) => server.once('initialized', done));
  };
  const linkTo = (drive: DriveSettings) => {
    const link = new DriveLink(drive, { host: '127.0.0.1', port, unitId: 1 });
    ends.push(async () => link.close());
    return link;
  };

  test.each([
    ['family', new DriveSettings(bookById('withy'), 'W2.2', {}, 50)],
    ['size', new DriveSettings(book, 'G4', {}, 50)],
  ])('another %s is told by its own words, and nothing is read from it or written to it', async (_name, drive) => {
    const bench = await start();
    const before = { ...present(bench.drives.get(1)).values };
    const link = linkTo(drive);
    const error = await link.readSettings().catch((e: unknown) => e);
    expect(error).toBeInstanceOf(AnotherDrive);
    expect((error as AnotherDrive).says).toEqual({ bookId: 'osier-g', family: 'Osier G', size: 'G7.5' });
    await expect(link.writeSetting(present(drive.all.find((s) => s.access === 'running')), 1)).rejects.toBeInstanceOf(AnotherDrive);
    expect(present(bench.drives.get(1)).values).toEqual(before);
  });

  test.each<[string, (() => Promise<Record<number, string>>) | undefined]>([
    ['cannot be asked what it is', undefined],
    ['leaves that question without an answer', () => new Promise<never>(() => undefined)],
    ['is of a make no book knows', async () => ({ 0: 'Elsewhere', 1: 'G4', 5: 'Unheard of' })],
  ])('a drive that %s is spoken with as on record', async (_name, identification) => {
    const asked: number[] = [];
    const answer = identification && (() => (asked.push(1), identification()));
    await answering(answer);
    const link = linkTo(factory);
    expect(await link.readSetting(setting('2a'))).toBeCloseTo(7 * setting('2a').step);
    // whatever came of the question, it is not asked again while the connection stands, nor after it where nothing came
    await link.readSetting(setting('2a'));
    expect(asked.length).toBeLessThanOrEqual(1);
  });
});

describe('drives that come, go and are changed by others', () => {
  test('settings of a drive nobody watches are scanned, but not while somebody acts on it', async () => {
    const bench = await start();
    const claims = new Claims();
    const read: number[] = [];
    const fleet = new Fleet(
      { host: '127.0.0.1', port },
      [{ tag: 'P-11', bookId: book.id, size: 'G7.5', region: 50, unitId: 1 }],
      claims,
      async (_tag, values) => void read.push(present(values['3a'])),
      50,
    );
    ends.push(() => fleet.stop());
    await until(() => read.length > 0);
    // somebody else changes it at its keypad
    present(bench.drives.get(1)).set('3a', 44);
    await until(() => read.at(-1) === 44);
    const giveBack = claims.take('P-11', 'Ines Calder', 'write');
    // a scan under way when the claim was taken counts for nothing, and no other begins: three looks at the drive later it is still so
    let looks = 0;
    const stop = fleet.onSample(() => looks++);
    const before = read.length;
    present(bench.drives.get(1)).set('3a', 45);
    await until(() => looks > 3);
    expect(read.length).toBe(before);
    giveBack();
    await until(() => read.at(-1) === 45);
    stop();
  });

  test('a database that does not answer keeps no drive from being asked', async () => {
    const bench = await start();
    let asked = 0;
    // as with a database that is stopped and not gone: it never answers
    const fleet = new Fleet(
      { host: '127.0.0.1', port },
      [{ tag: 'P-11', bookId: book.id, size: 'G7.5', region: 50, unitId: 1 }],
      new Claims(),
      () => new Promise(() => void (asked += 1)),
      50,
    );
    ends.push(() => fleet.stop());
    const seen: number[] = [];
    fleet.onSample((s) => seen.push(s.busVoltage));
    fleet.watch(['P-11'], 1);
    await until(() => asked > 0);
    const before = seen.length;
    present(bench.drives.get(1)).set('3a', 44);
    await until(() => seen.length > before + 30);
    expect(fleet.stationOf('P-11').latest.link).toBe('up');
    expect(asked).toBe(1);
  });

  test('a drive that cannot be asked is told as old within two seconds, and not as it was', async () => {
    await start();
    const fleet = new Fleet(
      { host: '127.0.0.1', port },
      [{ tag: 'P-11', bookId: book.id, size: 'G7.5', region: 50, unitId: 1 }],
      new Claims(),
      async () => undefined,
    );
    ends.push(() => fleet.stop());
    fleet.watch(['P-11'], 1);
    await until(() => fleet.stationOf('P-11').latest.link === 'up');
    const { link } = fleet.stationOf('P-11');
    const told: LiveSample[] = [];
    // whatever keeps it: from here on no question is answered, nor given up
    jest.spyOn(link, 'readLive').mockImplementation(() => new Promise(() => undefined));
    fleet.onSample((s) => told.push(s));
    const from = performance.now();
    await until(() => told.some((s) => s.link === 'down'));
    expect(performance.now() - from).toBeGreaterThan(500);
    expect(told.at(-1)).toMatchObject({
      state: 'no link',
      outputFrequency: 0,
      searching: false,
      command: 'The server has heard nothing from the drive for two seconds',
    });
    ends.pop();
    void fleet.stop();
  });

  test('the fleet says no link, then up, and hands the settings on when a drive appears', async () => {
    const read: string[] = [];
    const fleet = new Fleet(
      { host: '127.0.0.1', port },
      [{ tag: 'P-11', bookId: book.id, size: 'G7.5', region: 50, unitId: 1 }],
      new Claims(),
      async (tag) => void read.push(tag),
    );
    const states: string[] = [];
    ends.push(() => fleet.stop());
    const stopListening = fleet.onSample((s) => states.push(s.state));
    fleet.watch(['P-11'], 1);
    await until(() => states.includes('no link'));
    await start();
    await until(() => states.includes('ready'));
    await until(() => read.length > 0);
    stopListening();
  });
});
