import { getDocument } from 'pdfjs-dist/legacy/build/pdf';
import { stillLapse } from '@yare/contract';
import { present } from '@yare/core';
import type { Device } from './device';
import { startStack, until, type Stack } from './stack';

let stack: Stack;
/** how long nobody has asked, on a clock in the test's hand: a busy machine lets nobody's command lapse */
let now = 0;
beforeAll(async () => {
  stack = await startStack({ steady: () => now });
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload }) });
const drive = () => present(stack.bench.drives.get(6));

describe('what is wired', () => {
  const input = { device: 'push button', label: 'S1 Start', atRest: 'open' };

  test('is noted as revisions; who comes second is given both sides', async () => {
    expect((await call('GET', '/machines/C-07/wiring')).json()).toBeNull();
    const first = await call('PUT', '/machines/C-07/wiring', { revision: 0, author, wiring: { inputs: { D1: input }, unit: null } });
    expect(first.json()).toMatchObject({ revision: 1, author, wiring: { inputs: { D1: input } } });
    const second = await call('PUT', '/machines/C-07/wiring', { revision: 0, author: 'Ruth Hale', wiring: { inputs: {}, unit: null } });
    expect([second.statusCode, second.json().current.revision]).toEqual([409, 1]);
    expect(
      (await call('PUT', '/machines/C-07/wiring', { revision: 1, author, wiring: { inputs: { D1: { ...input, atRest: 'ajar' } }, unit: null } }))
        .statusCode,
    ).toBe(400);
  });

  test('the list comes as a PDF on A4: every terminal with its job, and the strip', async () => {
    const response = await call('GET', '/machines/C-07/wiring-list.pdf');
    expect([response.statusCode, response.headers['content-type']]).toEqual([200, 'application/pdf']);
    const pdf = await getDocument({ data: new Uint8Array(response.rawPayload), useSystemFonts: false }).promise;
    const pages = await Promise.all(Array.from({ length: pdf.numPages }, (_, i) => pdf.getPage(i + 1)));
    const texts = await Promise.all(pages.map(async (p) => (await p.getTextContent()).items.map((t) => ('str' in t ? t.str : '')).join(' ')));
    const [, , width = 0, height = 0] = present(pages[0]).view;
    expect([Math.round(width), Math.round(height)]).toEqual([595, 842]);
    expect(pdf.numPages).toBe(3);
    const all = texts.join(' ').replace(/\s+/g, ' ');
    for (const text of [
      'Wiring of C-07',
      'Green malt conveyor',
      'S1 Start',
      'push button, open at rest',
      'Stop, opens',
      'Holding brake',
      'page 3 of 3',
      'Safe torque off',
    ])
      expect(all).toContain(text);
    for (const id of ['D1', 'D6', 'R2', 'Q1', 'A1', 'L1']) expect(all).toContain(id);
  });
});

describe('kept still while wires are tried', () => {
  const press = (id: string, value: number) => call('POST', '/machines/C-07/bench', { author, panel: { [id]: value } });
  let phone: Device;
  beforeAll(async () => {
    phone = await stack.ready(author, 'C-07');
  });
  const live = () => present(phone.live('C-07'));

  test('a start at the terminals is seen and starts nothing, not even once command is back', async () => {
    expect((await call('POST', '/machines/C-07/still', { author })).statusCode).toBe(200);
    // held as a hand holds it: a press nobody repeats springs back, and a busy machine may not have looked by then
    await until(async () => {
      await press('start', 1);
      return (live().words.inputs & 1) === 1;
    });
    expect(drive().running).toBe(false);
    const other = await call('POST', '/machines/C-07/still', { author: 'Ruth Hale' });
    expect([other.statusCode, other.json().detail]).toEqual([409, expect.stringContaining('Ines Calder is trying the wires of C-07')]);
    const proof = {
      author,
      stage: 'command',
      item: 'given back',
      outcome: 'passed',
      facts: { kind: 'givenBack' },
      settings: [],
      plate: false,
      survey: false,
    };
    expect((await call('POST', '/machines/C-07/proofs', proof)).json().detail).toContain(
      'Command was not seen to be given back: Ines Calder has command of C-07',
    );
    // nobody else gives it back under a finger that is on its start button
    expect((await call('POST', '/machines/C-07/still/end', { author: 'Ruth Hale' })).statusCode).toBe(409);
    expect(live().stillUntil).toBeGreaterThan(live().at);
    expect((await call('POST', '/machines/C-07/still/end', { author })).json()).toMatchObject({ holder: 'terminals', stillUntil: null });
    expect(drive().running).toBe(false);
    expect((await call('POST', '/machines/C-07/proofs', proof)).statusCode).toBe(200);
    // what was not taken is not given back, and is not in the log
    await call('POST', '/machines/C-07/still/end', { author });
    const { events } = (await call('GET', '/audit?tag=C-07')).json();
    expect(events.filter((e: { action: string }) => e.action === 'tried wires')).toHaveLength(1);
  });

  test('a link that is away for a moment ends nothing: command is taken again, and a start finds it kept still', async () => {
    await call('POST', '/machines/C-07/still', { author });
    await until(() => live().stillUntil !== null);
    drive().plant.wiring.linkCut = true;
    await until(() => !drive().link.holds);
    drive().plant.wiring.linkCut = false;
    await until(() => drive().link.holds);
    await until(() => live().stillUntil !== null && live().holder === 'here');
    await until(async () => {
      await press('start', 1);
      return (live().words.inputs & 1) === 1;
    });
    expect(drive().running).toBe(false);
    await press('start', 0);
    expect((await call('POST', '/machines/C-07/still/end', { author })).json()).toMatchObject({ holder: 'terminals', stillUntil: null });
  });

  test('nobody who asks for it any more: command goes back', async () => {
    await call('POST', '/machines/C-07/still', { author });
    now += stillLapse - 1;
    expect(drive().link.holds).toBe(true);
    now += 1;
    await until(() => !drive().link.holds);
    await until(() => live().holder === 'terminals');
  });

  test('a machine that turns is refused', async () => {
    // the start that was given before is let go first, or there is no new one
    await press('start', 0);
    await until(() => live().state === 'ready' && (live().words.inputs & 1) === 0);
    await press('start', 1);
    await until(() => live().state === 'running');
    expect((await call('POST', '/machines/C-07/still', { author })).json().detail).toContain('wires are tried with the motor still');
    const moved = await call('POST', '/machines/C-07/bench', { author, wires: { act: 'strike unseen', kind: 'cut' } });
    expect([moved.statusCode, moved.json().detail]).toEqual([409, expect.stringContaining('Wires are moved at a machine that stands')]);
    await press('halt', 1);
    await until(() => !drive().running);
  });
});

test('a wire is laid wrong and put right; what nobody was told of is counted, not named', async () => {
  const wires = (wires: object) => call('POST', '/machines/C-07/bench', { author, wires });
  await stack.ready(author, 'C-07');
  expect((await wires({ act: 'strike', fault: { kind: 'cut', a: 'D9' } })).json().detail).toContain('There is no input D9');
  expect((await wires({ act: 'strike', fault: { kind: 'swap', a: 'D1', b: 'D3' } })).json().wireFaults).toEqual([{ kind: 'swap', a: 'D1', b: 'D3' }]);
  const unseen = (await wires({ act: 'strike unseen', kind: 'cut' })).json();
  expect([unseen.wireFaults.length, unseen.unseenFaults]).toEqual([1, 1]);
  expect((await wires({ act: 'put right' })).json()).toMatchObject({ wireFaults: [], unseenFaults: 0 });
  const built = (await wires({ act: 'build anew' })).json();
  expect(built.wires.map((w: { terminal: string }) => w.terminal)).toEqual(['D1', 'D2', 'D3', 'D4', 'D5', 'D6']);
});
