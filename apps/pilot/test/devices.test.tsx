import { fireEvent, screen, waitFor } from '@testing-library/react';
import type { DeviceView, Keeping } from '@yare/contract';
import { present } from '@yare/core';
import { useDevice } from '../src/data/device';
import { askWhoWeAre, usePairing } from '../src/data/pairing';
import { DevicesScreen } from '../src/features/devices/DevicesScreen';
import { PairGate } from '../src/features/pair/PairGate';
import { freshServer, open, row, settled, touch, touchRow, touchText, type FakeServer } from './fakeServer';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, usePathname: () => mockPath }));
let mockPath = '/';

let server: FakeServer;
let allowed: boolean;
const notPaired = {
  status: 401,
  body: { type: 'urn:yare:problem:not-paired', title: 'Not paired', status: 401, detail: 'This device is not paired.' },
};
const pairAnswers: Array<{ status: number; body: unknown }> = [];
beforeEach(() => {
  server = freshServer();
  usePairing.setState({ allowed: null, local: false, device: null, putOut: false });
  location.hash = '';
  mockPath = '/';
  pairAnswers.length = 0;
  server.special.push(({ path }) => {
    if (path === '/devices/here') return { status: 200, body: { allowed, local: false, device: allowed ? 'Phone' : null } };
    if (path === '/devices/pair') {
      const answer = pairAnswers.shift() ?? { status: 200, body: { allowed: true, local: false, device: 'Phone' } };
      allowed = answer.status === 200;
      return answer;
    }
    return allowed ? undefined : notPaired;
  });
});

const page = (
  <PairGate>
    <p>The plant</p>
  </PairGate>
);

test('a device the server does not know sees nothing but the question for the code', async () => {
  allowed = false;
  await open(page);
  expect(screen.queryByText('The plant')).toBeNull();
  expect(screen.getByText('The server does not know it yet.')).toBeTruthy();
  expect(row('pair').getAttribute('aria-disabled')).toBe('true');
});

test('a scanned code stands there already; a wrong one is told and cleared, the right one lets in', async () => {
  allowed = false;
  location.hash = '#abcd2345';
  pairAnswers.push({
    status: 403,
    body: { type: 'x', title: 'Wrong code', status: 403, detail: 'That is not a code in force. Compare it with the server’s screen.' },
  });
  await open(page);
  const code = row('pair-code') as HTMLInputElement;
  expect(code.value).toBe('ABCD 2345');
  fireEvent.change(row('pair-name'), { target: { value: 'Phone of Ines' } });
  await touchRow('pair');
  expect(screen.getByText(/not a code in force/)).toBeTruthy();
  expect(code.value).toBe('');
  // rubbish is no code
  fireEvent.change(code, { target: { value: 'zz-!9' } });
  expect(row('pair').getAttribute('aria-disabled')).toBe('true');
  fireEvent.change(code, { target: { value: ' wxyz 6789 and more' } });
  await touchRow('pair');
  expect(server.bodies('POST', '/devices/pair')).toEqual([
    { code: 'ABCD2345', name: 'Phone of Ines' },
    { code: 'WXYZ6789', name: 'Phone of Ines' },
  ]);
  expect(screen.getByText('The plant')).toBeTruthy();
});

test('what is typed on the page that asks outlives the server’s first no', async () => {
  allowed = false;
  mockPath = '/pair';
  let answer: () => void = () => undefined;
  const here = new Promise<void>((resolve) => (answer = resolve));
  const own = globalThis.fetch;
  Object.assign(globalThis, {
    fetch: async (url: string, init?: RequestInit) => {
      if (url.endsWith('/devices/here')) await here;
      return own(url, init);
    },
  });
  await open(page);
  fireEvent.change(row('pair-code'), { target: { value: 'abcd 23' } });
  fireEvent.change(row('pair-name'), { target: { value: 'Phone of Ines' } });
  answer();
  await waitFor(() => expect(usePairing.getState().allowed).toBe(false));
  expect((row('pair-code') as HTMLInputElement).value).toBe('ABCD 23');
  expect((row('pair-name') as HTMLInputElement).value).toBe('Phone of Ines');
});

test('a device that is put out is told so, and keeps its name', async () => {
  allowed = true;
  await open(page);
  expect(screen.getByText('The plant')).toBeTruthy();
  allowed = false;
  askWhoWeAre();
  await settled();
  expect(screen.queryByText('The plant')).toBeNull();
  expect(screen.getByText(/Somebody removed this device/)).toBeTruthy();
  expect(useDevice.getState().author).toBe('Ines Calder');
});

test('paired devices are listed; putting one out says first what that does', async () => {
  allowed = true;
  const devices: DeviceView[] = ['Phone of Tom', 'Tablet'].map((name, i) => ({
    id: i + 1,
    name,
    pairedAt: '2026-11-20T08:00:00Z',
    lastUsed: '2026-11-25T08:00:00Z',
    address: `192.0.2.${i + 1}`,
    self: i === 1,
    online: i === 0,
  }));
  server.special.push(({ method, path }) => {
    if (path === '/devices') return { status: 200, body: devices };
    return method === 'POST' && path === '/devices/1/put-out' ? { status: 200, body: {} } : undefined;
  });
  await open(<DevicesScreen />);
  expect(row('device-1').textContent).toContain('in use now');
  expect(row('device-2').textContent).toContain('Tablet (this device)');
  await touchRow('device-1');
  expect(screen.getByText(/A motor it holds is ramped down at once/)).toBeTruthy();
  expect(server.bodies('POST', '/devices/1/put-out')).toEqual([]);
  await touchText('Remove Phone of Tom');
  expect(server.bodies('POST', '/devices/1/put-out')).toEqual([{ author: 'Ines Calder' }]);
});

test('how long recordings are kept: what a rule does is said before it is taken', async () => {
  allowed = true;
  let keeping: Keeping = { wholeDays: null, thinnedDays: null };
  server.special.push(({ method, path, body }) => {
    if (path === '/devices') return { status: 200, body: [] };
    if (path !== '/keeping') return undefined;
    if (method === 'PUT') keeping = { wholeDays: body.wholeDays as number, thinnedDays: body.thinnedDays as number | null };
    return { status: 200, body: keeping };
  });
  await open(<DevicesScreen />);
  expect(await screen.findByText('Recordings are never thinned or removed by themselves.')).toBeTruthy();
  const choose = (label: string, name: string) =>
    touch(present(screen.getAllByRole('radio', { name }).find((r) => r.closest(`[aria-label="${label}"]`))));
  await choose('Every sample, for', '90 days');
  expect(screen.getByText(/Recordings older than 90 days are thinned to one sample a second and stay so\..*does not come back/)).toBeTruthy();
  await choose('After that one sample a second, for', 'a year');
  expect(screen.getByText(/kept so for a year, and then removed/)).toBeTruthy();
  expect(server.bodies('PUT', '/keeping')).toEqual([]);
  await touchText('Keep recordings like this');
  expect(server.bodies('PUT', '/keeping')).toEqual([{ wholeDays: 90, thinnedDays: 365, author: 'Ines Calder' }]);
  await settled();
  expect(screen.queryByText('Keep recordings like this')).toBeNull();
});
