import { demoPlant } from '@yare/demo-plant';
import { present } from '@yare/core';
import { QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, configure, fireEvent, render, screen, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import type {
  Leaving,
  MachineDetail,
  MachineSummary,
  PlateRevision,
  Proof,
  RecordingData,
  Sheets,
  SurveyRevision,
  WiringRevision,
} from '@yare/contract';
import { useDevice } from '../src/data/device';
import { useEdits } from '../src/data/edits';
import { queryClient } from '../src/data/client';
import { closeEntry } from '../src/ui/entryStore';
import { ThemeProvider } from '../src/ui/theme';
import { demoMachine, demoSheet } from './demoModel';
import { FakeSocket } from './fakeSocket';
import { FakeWatching } from './fakeWatching';

// whether a thing is hidden is asked of every element above it, which takes most of the time here
configure({ defaultHidden: true });

interface Request {
  method: string;
  path: string;
  body: Record<string, unknown>;
}

/** What the server would hold of a machine. */
interface Record_ {
  machine: MachineDetail;
  sheets: Sheets;
  survey: SurveyRevision | null;
  wiring: WiringRevision | null;
  proofs: Proof[];
  left: Leaving | null;
}

const at = '2026-01-02T00:00:00Z';
const refusal = (status: number, detail: string, more: object = {}) => ({
  status,
  body: { type: 'about:blank', title: 'x', status, detail, ...more },
});

const reply = (status: number, body: unknown): Response =>
  ({ ok: status < 400, status, json: async () => JSON.parse(JSON.stringify(body)) as unknown }) as Response;

/** Samples as the server packs them. */
function packedOf({ meta, time, data }: RecordingData): ArrayBuffer {
  const n = time.length;
  const packed = new ArrayBuffer(n * (8 + 4 * meta.channels.length));
  new Float64Array(packed, 0, n).set(time);
  meta.channels.forEach((c, k) => new Float32Array(packed, n * (8 + 4 * k), n).set(data[c.key] ?? []));
  return packed;
}

/** A server in memory, as far as the pages need one; the real one has its own tests. */
export class FakeServer {
  readonly sent: Request[] = [];
  readonly machines = new Map<string, Record_>();
  /** answers instead of its own, newest first: a status with a body, or nothing to pass on */
  readonly special: Array<(r: Request) => { status: number; body: unknown } | undefined> = [];
  /** nobody answers */
  down = false;
  readonly watching = new FakeWatching(this);

  constructor() {
    FakeSocket.watching = this.watching;
    for (const { tag, draft } of demoPlant) {
      const own = Object.fromEntries(draft.map((d) => [d.code, d.value]));
      const inDrive = demoSheet(tag, 'in drive', {});
      this.machines.set(tag, {
        machine: demoMachine(tag),
        sheets: { draft: demoSheet(tag, 'draft', own), inDrive, asFound: { ...inDrive, kind: 'as found' } },
        survey: null,
        wiring: null,
        proofs: [],
        left: null,
      });
    }
    Object.assign(globalThis, { fetch: jest.fn((url: string, init?: RequestInit) => this.fetch(url, init)) });
  }

  of(tag: string): Record_ {
    return present(this.machines.get(tag));
  }

  /** bodies sent to a path, oldest first */
  bodies(method: string, path: string): Array<Record<string, unknown>> {
    return this.sent.filter((r) => r.method === method && r.path === path).map((r) => r.body);
  }

  /** asked for and not yet answered */
  static pending = 0;

  private async fetch(url: string, init?: RequestInit): Promise<Response> {
    FakeServer.pending += 1;
    try {
      return await this.answer(url, init);
    } finally {
      FakeServer.pending -= 1;
    }
  }

  private async answer(url: string, init?: RequestInit): Promise<Response> {
    if (this.down) throw new TypeError('no answer');
    const request: Request = {
      method: init?.method ?? 'GET',
      path: url.replace('/api/v1', ''),
      body: init?.body ? JSON.parse(String(init.body)) : {},
    };
    this.sent.push(request);
    const answered = (r: Request) => this.special.map((s) => s(r)).find((a) => a !== undefined) ?? this.own(r);
    // a recording stands among the answers whole; what crosses is what it is of, and its samples packed
    const samples = /^(\/recordings\/\d+)(\/samples)?$/.exec(request.path);
    if (samples) {
      const { body, status } = answered({ ...request, path: present(samples[1]) });
      if (status < 400)
        return (
          samples[2] ? { ok: true, status, arrayBuffer: async () => packedOf(body as RecordingData) } : reply(status, (body as RecordingData).meta)
        ) as Response;
    }
    const answer = answered(request);
    return reply(answer.status, answer.body);
  }

  private own({ method, path, body }: Request): { status: number; body: unknown } {
    const ok = (b: unknown) => ({ status: 200, body: b });
    if (path === '/machines') return ok([...this.machines.values()].map(({ machine }) => this.summary(machine)));
    if (path.startsWith('/books/')) return ok([]);
    if (path === '/motors') return ok([]);
    if (path.startsWith('/audit')) return ok({ entries: [], next: null });
    const [, tag = '', rest = ''] = /^\/machines\/([^/]+)(.*)$/.exec(path) ?? [];
    const record = this.machines.get(tag);
    if (!record) return refusal(404, `There is no machine ${tag}.`);
    if (method === 'GET') {
      if (rest === '') return ok(record.machine);
      if (rest === '/sheets') return ok(record.sheets);
      if (rest === '/survey') return ok(record.survey);
      if (rest === '/wiring') return ok(record.wiring);
      if (rest === '/plan') return ok({ proofs: record.proofs, left: record.left });
      if (rest === '/write' || rest === '/lock') return ok(null);
      if (rest === '/photos') return ok([]);
      if (rest.startsWith('/recordings')) return ok({ recordings: [], next: null });
      if (rest === '/revisions') return ok({ revisions: [], next: null });
    }
    const author = String(body.author);
    if (rest === '/leave') return ok((record.left = { author, at, stages: body.stages as string[], told: null }));
    if (rest === '/go-on') return ok((record.left = null));
    if (method === 'PUT' && rest === '/draft') {
      const changes = body.changes as Array<{ code: string; value: number; source: 'chosen' }>;
      const values = {
        ...record.sheets.draft.values,
        ...Object.fromEntries(changes.map((c) => [c.code, { value: c.value, source: c.source, author, at }])),
      };
      record.sheets = { ...record.sheets, draft: { ...record.sheets.draft, revision: record.sheets.draft.revision + 1, values, author, at } };
      return ok(record.sheets.draft);
    }
    if (method === 'PUT' && rest === '/survey') {
      record.survey = { revision: Number(body.revision) + 1, survey: body.survey as SurveyRevision['survey'], author, at };
      return ok(record.survey);
    }
    if (method === 'PUT' && rest === '/wiring') {
      record.wiring = { revision: Number(body.revision) + 1, wiring: body.wiring as WiringRevision['wiring'], author, at };
      return ok(record.wiring);
    }
    if (method === 'POST' && rest.startsWith('/still')) return ok({});
    if (method === 'POST' && rest === '/watch') return ok(this.watching.of(tag));
    if (method === 'PUT' && rest === '/plate') {
      const plate: PlateRevision = { revision: Number(body.revision) + 1, plate: body.plate as PlateRevision['plate'], author, at };
      record.machine = { ...record.machine, plate };
      return ok(plate);
    }
    if (method === 'POST' && rest === '/proofs') {
      const { stage, item, outcome, facts } = body as unknown as Proof;
      const proof: Proof = {
        id: record.proofs.length + 1,
        stage,
        item,
        outcome,
        facts: facts ?? this.watching.proved(tag, stage, item),
        told: null,
        relied: {},
        author,
        at,
      };
      record.proofs = [...record.proofs.filter((p) => p.item !== item), proof];
      this.watching.counted(tag, stage, item);
      return ok(proof);
    }
    return refusal(404, `Nothing is at ${method} ${path}.`);
  }

  private summary({ tag, name, site, area, bookId, size, plate }: MachineDetail): MachineSummary {
    const { power, powerUnit } = plate.plate;
    return { tag, name, site, area, bookId, size, plate: { power, powerUnit }, voltage: 400, openTrips: 0, differences: 0, newer: null, left: null };
  }
}

/** A page of somebody who has given a name, on a fresh device with a fresh server. */
export function freshServer(): FakeServer {
  cleanup();
  queryClient.clear();
  localStorage.clear();
  closeEntry();
  useEdits.setState({ machines: {}, offline: false });
  useDevice.setState({ author: 'Ines Calder' });
  return new FakeServer();
}

/** Waits until nothing more is asked for. */
export const settled = () =>
  act(async () => {
    for (let quiet = 0; quiet < 2; quiet += 1) {
      await new Promise((done) => setTimeout(done, 15));
      if (FakeServer.pending > 0) quiet = -1;
    }
  });

/** Draws a page and waits for what it asks for. */
export async function open(page: ReactNode): Promise<void> {
  render(
    <QueryClientProvider client={queryClient}>
      <ThemeProvider>{page}</ThemeProvider>
    </QueryClientProvider>,
  );
  await settled();
}

export const row = (id: string) => screen.getByTestId(id);

/** A touch, and what comes of it. */
export async function touch(element: HTMLElement): Promise<void> {
  fireEvent.click(element);
  await settled();
}
export const touchRow = (id: string) => touch(row(id));
/** Holds an act by the space bar until it is done. */
export async function holdRow(id: string): Promise<void> {
  fireEvent.keyDown(row(id), { key: ' ' });
  await waitFor(() => expect(row(id).textContent).toContain('Keep holding'));
  await waitFor(() => expect(screen.queryByText('Keep holding…')).toBeNull(), { timeout: 5000 });
  await settled();
}
export const touchText = (text: string | RegExp) => touch(screen.getByRole('button', { name: text }));

/** Takes a figure in hand, types it and sets it. */
export async function type(id: string, figure: string): Promise<void> {
  await touchRow(id);
  fireEvent.change(row('entry-input'), { target: { value: figure } });
  await touchRow('entry-set');
}

/** A machine whose drive holds its draft, with some settings of its own in both. */
export function standsAs(server: FakeServer, tag: string, change: Record<string, number> = {}): void {
  const record = server.of(tag);
  const own = { ...Object.fromEntries(Object.entries(record.sheets.draft.values).map(([c, v]) => [c, v.value])), ...change };
  record.sheets = { ...record.sheets, draft: demoSheet(tag, 'draft', own), inDrive: demoSheet(tag, 'in drive', own) };
}
