import { act, screen } from '@testing-library/react';
import { router } from 'expo-router';
import { present } from '@yare/core';
import type { WriteJob, WriteLine, WriteReport } from '@yare/contract';
import { queryClient } from '../src/data/client';
import { editDraft } from '../src/data/edits';
import { WriteScreen } from '../src/features/write/WriteScreen';
import { demoSheet } from './demoModel';
import { freshServer, holdRow, open, row, settled, touch, touchRow, touchText, type FakeServer } from './fakeServer';

const mockRoute = { tag: 'P-11' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeEach(() => {
  mockRoute.tag = 'P-11';
  server = freshServer();
});
const alerts = () => screen.queryAllByRole('alert').map((a) => a.textContent);

const line = (code: string, result: WriteLine['result']): WriteLine => ({
  code,
  name: code,
  unit: 's',
  before: 1,
  asked: 2,
  stored: 2,
  readBack: result === 'verified' ? 2 : null,
  result,
});

describe('Write', () => {
  test('shows what will change, writes just that, and tells what came of it', async () => {
    await open(<WriteScreen />);
    const codes = screen.getAllByTestId(/^diff-/).map((d) => present(d.getAttribute('data-testid')).slice(5));
    server.special.push((r) => {
      if (r.method !== 'POST' || !r.path.endsWith('/write')) return undefined;
      const report: WriteReport = {
        outcome: 'kept',
        sentence: `${codes.length} values written, read back and kept through power-off.`,
        lines: codes.map((c) => line(c, 'verified')),
        at: '2026-01-02T00:00:00Z',
        author: 'Ines Calder',
        inDrive: null,
      };
      return { status: 200, body: report };
    });
    expect(row('write').textContent).toContain(`Hold to write ${codes.length} values`);
    await touchRow('write');
    expect(server.bodies('POST', '/machines/P-11/write')).toEqual([]);
    await holdRow('write');
    expect(server.bodies('POST', '/machines/P-11/write')).toEqual([{ revision: 1, codes, author: 'Ines Calder' }]);
    expect(screen.getByText(/values written, read back and kept through power-off/)).toBeTruthy();
  });

  test('chosen lines only, and all of them', async () => {
    await open(<WriteScreen />);
    const [first] = screen.getAllByTestId(/^diff-/);
    const all = screen.getAllByTestId(/^diff-/).length;
    await touchRow('extent-chosen');
    await touch(screen.getByTestId(present(present(first).getAttribute('data-testid'))));
    expect(row('write').textContent).toContain(`Hold to write ${all - 1} `);
    await touchRow('extent-all');
    expect(row('write').textContent).toMatch(/Hold to write all 1[78]\d/);
  });

  test('a draft that is still on its way cannot be written', async () => {
    await open(<WriteScreen />);
    server.down = true;
    editDraft('P-11', { '3a': { value: 4, source: 'chosen' } });
    await settled();
    expect(row('write').getAttribute('aria-disabled')).toBe('true');
  });

  test('one that broke off is told with how far it came, and gone on with', async () => {
    const job: WriteJob = {
      id: 7,
      state: 'link lost',
      sentence: 'The link was lost.',
      lines: [line('3a', 'verified'), line('3b', 'not reached')],
      revision: 1,
      author: 'Tom Reed',
      at: '2026-01-02T00:00:00Z',
    };
    server.special.push((r) => (r.method === 'GET' && r.path.endsWith('/write') ? { status: 200, body: job } : undefined));
    await open(<WriteScreen />);
    expect(alerts().join()).toContain('The link was lost. 1 of 2 were in the drive, not kept. Writing the rest reads each one again first.');
    expect(row('go-on').textContent).toContain('Hold to write the rest: 1 value');
    await holdRow('go-on');
    expect(server.bodies('POST', '/machines/P-11/write/resume')).toEqual([{ author: 'Ines Calder' }]);
    await touchText('Begin afresh instead');
    expect(row('write').textContent).toContain('Hold to write');
    // one that breaks off after that is offered again
    job.id = 8;
    await act(async () => queryClient.invalidateQueries());
    await settled();
    expect(row('go-on').textContent).toContain('Hold to write the rest');
  });

  test('nothing to write leads on to Direction', async () => {
    const { draft } = server.of('P-11').sheets;
    const same = demoSheet('P-11', 'in drive', Object.fromEntries(Object.entries(draft.values).map(([c, v]) => [c, v.value])));
    server.of('P-11').sheets.inDrive = same;
    await open(<WriteScreen />);
    expect(screen.queryAllByTestId(/^diff-/)).toEqual([]);
    await touchRow('go-turn');
    expect(router.navigate).toHaveBeenLastCalledWith('/m/P-11/direction');
  });
});
