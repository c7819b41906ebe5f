import { present } from '@yare/core';
import { screen } from '@testing-library/react';
import { router } from 'expo-router';
import { PlateScreen } from '../src/features/plate/PlateScreen';
import { freshServer, open, row, touch, touchRow, touchText, type, type FakeServer } from './fakeServer';

const mockRoute = { tag: 'C-21' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeEach(() => {
  mockRoute.tag = 'C-21';
  server = freshServer();
});

describe('Plate', () => {
  test('a plate that contradicts itself works nothing out, and its way out cures it', async () => {
    mockRoute.tag = 'P-11';
    await open(<PlateScreen />);
    expect(row('worked-slip').textContent).toContain('2.5');
    await type('plate-powerFactor', '88');
    expect(screen.getByText('cos φ cannot be above 1. 88 is 0.88 written in percent.')).toBeTruthy();
    expect(screen.queryByTestId('worked-slip')).toBeNull();
    await touchText('Use 0.88');
    expect(row('worked-slip')).toBeTruthy();
    expect(server.of('P-11').machine.plate.plate.powerFactor).toBe(0.88);
  });

  test('undo takes back the last figure, and the one before it', async () => {
    mockRoute.tag = 'P-11';
    await open(<PlateScreen />);
    await type('plate-speed', '2900');
    await type('plate-current', '14');
    await touchText('Undo');
    expect(row('plate-current').textContent).toContain('13.6');
    expect(row('plate-speed').textContent).toContain('2900');
    await touchText('Undo');
    expect(row('plate-speed').textContent).toContain('2925');
  });

  test('NEMA: horsepower, nine leads drawn, the other connection in one touch and back', async () => {
    await open(<PlateScreen />);
    expect(row('plate-power').textContent).toContain('hp');
    await touchRow('plate-leads');
    await touch(screen.getByRole('radio', { name: /9, dual voltage/ }));
    expect(screen.getByRole('img', { name: 'High volts, halves in series: T4 to T7, T5 to T8, T6 to T9.' })).toBeTruthy();
    await touchRow('other-connection');
    expect(row('plate-voltage').textContent).toContain('230');
    expect(row('plate-current').textContent).toContain('7.8');
    expect(screen.getByRole('img', { name: /^Low volts, halves in parallel: T4, T5, T6 together/ })).toBeTruthy();
    await touchRow('other-connection');
    expect(row('plate-voltage').textContent).toContain('460');
  });

  test('figures that belong into the draft are copied with their source, and then the way leads on', async () => {
    await open(<PlateScreen />);
    const copy = row('plate-copy');
    expect(copy.textContent).toMatch(/Copy \d+ figures? to the draft/);
    await touch(copy);
    const [body] = server.bodies('PUT', '/machines/C-21/draft');
    expect((present(body).changes as Array<{ source: string }>).every((c) => c.source === 'plate' || c.source === 'worked out')).toBe(true);
    await touchText(/Go on to Drive/);
    expect(router.navigate).toHaveBeenLastCalledWith('/m/C-21/drive');
  });

  test('a motor in delta on its star volts may be run on to 87 Hz, with what that asks of it', async () => {
    mockRoute.tag = 'C-07';
    await open(<PlateScreen />);
    expect(screen.queryByTestId('plate-base')).toBeNull();
    await type('plate-voltage', '230');
    await type('plate-current', '8.04');
    await touchRow('plate-connection');
    await touch(screen.getByRole('radio', { name: /Delta/ }));
    expect(row('plate-base').textContent).toContain('50 Hz, as stamped');
    await touchRow('plate-base');
    await touch(screen.getByRole('radio', { name: '87 Hz, at 398 V' }));
    expect(server.of('C-07').machine.plate.plate.base).toBe('raised');
    expect(screen.getByText(/keeps its flux up to 86\.6 Hz and 398 V/)).toBeTruthy();
    expect(screen.getByText('The drive carries 5.80 A, in delta the motor takes 8.04 A: a larger drive.')).toBeTruthy();
    expect(screen.queryByText(/The plate says 230 V for this connection/)).toBeNull();
  });
});
