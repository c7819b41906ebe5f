import { drivenFromMotor } from '@yare/core';
import { act, fireEvent, screen } from '@testing-library/react';
import { router } from 'expo-router';
import { clearNewMachine, editNewPlate, newMachineLacks, tagTrouble, useNewMachine } from '../src/data/newMachine';
import { MachineScreen } from '../src/features/machine/MachineScreen';
import { NewMachineScreen } from '../src/features/new/NewMachineScreen';
import { SurveyScreen } from '../src/features/survey/SurveyScreen';
import { freshServer, open, row, settled, touch, touchRow, touchText, type, type FakeServer } from './fakeServer';

const mockRoute = { tag: 'C-21' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeEach(() => {
  mockRoute.tag = 'C-21';
  server = freshServer();
  clearNewMachine();
});
const write = (id: string, text: string) => fireEvent.change(row(id), { target: { value: text } });
const disabled = (id: string) => row(id).getAttribute('aria-disabled') === 'true';

/** Fills the page in, all but the tag. */
async function fill(): Promise<void> {
  write('new-name', 'Wash water pump');
  await touch(screen.getByRole('radio', { name: /Kiln/ }));
  await touchRow('new-pump');
  await type('new-power', '4');
  await type('new-current', '7.9');
  act(() => editNewPlate({ voltage: 400, frequency: 50, speed: 1450 }));
  await touchRow('new-delta');
  await touchRow('new-sallow');
  await touch(screen.getByRole('radio', { name: /S4.*carries the motor/ }));
  await type('new-unit', '50');
}

describe('a new machine', () => {
  test('says what is missing, and goes on record once nothing is', async () => {
    await open(<NewMachineScreen />);
    expect(screen.getByText(/Still missing: tag, name, area, what it drives, output/)).toBeTruthy();
    await fill();
    expect(screen.getByText('Still missing: tag.')).toBeTruthy();
    expect(disabled('new-add')).toBe(true);
    write('new-tag', 'p 12');
    expect(screen.getByText(/one to three letters, a dash/)).toBeTruthy();
    write('new-tag', 'p-50');
    server.special.push((r) =>
      r.method === 'POST' && r.path === '/machines' ? { status: 200, body: { ...server.of('P-11').machine, tag: 'P-50' } } : undefined,
    );
    await touchRow('new-add');
    expect(server.bodies('POST', '/machines')).toEqual([
      expect.objectContaining({
        tag: 'P-50',
        name: 'Wash water pump',
        area: 'Kiln',
        kind: 'pump',
        bookId: 'sallow',
        size: 'S4',
        unitId: 50,
        supply: { voltage: 400, frequency: 50 },
        plate: expect.objectContaining({ power: 4, current: 7.9, connection: 'delta', efficiency: null }),
      }),
    ]);
    expect(router.navigate).toHaveBeenLastCalledWith('/m/P-50/survey');
    expect(useNewMachine.getState()).toMatchObject({ tag: '', kind: null });
  });

  test('that is refused, or finds no server, keeps all that was typed and says why', async () => {
    await open(<NewMachineScreen />);
    await fill();
    write('new-tag', 'P-11');
    server.special.push(({ method }) =>
      method === 'POST'
        ? { status: 409, body: { type: 'x', title: 'x', status: 409, detail: 'There is a machine P-11 already. Give this one another tag.' } }
        : undefined,
    );
    await touchRow('new-add');
    expect(screen.getByText(/There is a machine P-11 already/)).toBeTruthy();
    server.down = true;
    await touchRow('new-add');
    expect(screen.getByText(/The server does not answer/)).toBeTruthy();
    expect(newMachineLacks(useNewMachine.getState())).toEqual([]);
    expect(localStorage.getItem('yare.newMachine')).toContain('Wash water pump');
  });

  test('tells sizes that are too small for the motor, and forgets the size with the family', async () => {
    await open(<NewMachineScreen />);
    await type('new-current', '7.9');
    await touchRow('new-withy');
    expect(screen.getByRole('radio', { name: /W0.2.*too small for the motor/ })).toBeTruthy();
    await touch(screen.getByRole('radio', { name: /W0.2/ }));
    await touchRow('new-sallow');
    expect(useNewMachine.getState()).toMatchObject({ bookId: 'sallow', size: null });
    await touchRow('new-clear');
    expect(useNewMachine.getState().bookId).toBeNull();
    await touchRow('new-back');
    expect(useNewMachine.getState()).toMatchObject({ bookId: 'sallow', plate: { current: 7.9 } });
  });

  test('has a tag of one form only', () => {
    expect(['', 'P-1', 'ABC-1234'].map(tagTrouble)).toEqual([null, null, null]);
    for (const tag of ['P11', 'ABCD-1', 'P-12345', '-1', 'P-']) expect(tagTrouble(tag)).not.toBeNull();
  });
});

describe('what a machine drives', () => {
  const asEstimate = () => {
    const record = server.of('C-21');
    record.machine = { ...record.machine, driven: drivenFromMotor('conveyor', record.machine.plate.plate as never), drivenEstimated: true };
  };

  test('is told as an estimate until it is taken down on the survey', async () => {
    asEstimate();
    await open(<SurveyScreen />);
    expect(screen.getByText(/Nobody has read the machine’s own plate yet/)).toBeTruthy();
    expect(screen.getByText(/Still to be recorded: what it drives/)).toBeTruthy();
    await type('driven-torqueShare', '55');
    expect(server.of('C-21').survey?.survey.driven).toMatchObject({ kind: 'conveyor', torqueShare: 55, ratio: 25 });
    expect(screen.queryByText(/Nobody has read/)).toBeNull();
    expect(row('driven-torqueShare').textContent).toMatch(/^C.*55/);
    expect(row('driven-ratio').textContent).toMatch(/^W/);
    await touchText('Undo');
    expect(server.of('C-21').survey?.survey.driven).toBeNull();
  });

  test('takes another kind as an estimate from the motor, and refuses an impossible figure with its range', async () => {
    await open(<SurveyScreen />);
    await type('driven-slope', '80');
    expect(screen.getByRole('alert').textContent).toContain('Slope takes −45 to 45 °');
    await touchText('Leave');
    await touchRow('driven-kind');
    await touch(screen.getByRole('radio', { name: /Pump/ }));
    expect(server.of('C-21').survey?.survey.driven).toMatchObject({ kind: 'pump', head: 30 });
    expect(row('driven-head').textContent).toMatch(/^W.*30/);
    expect(screen.queryByTestId('driven-slope')).toBeNull();
  });

  test('shows on the work plan', async () => {
    asEstimate();
    await open(<MachineScreen />);
    expect(screen.getByText(/estimated from the motor until the survey records it/)).toBeTruthy();
  });
});

describe('the record of a machine', () => {
  const answerRecord = () =>
    server.special.push(({ method, path, body }) =>
      method === 'PUT' && path === '/machines/C-21/record' ? { status: 200, body: { ...server.of('C-21').machine, ...body } } : undefined,
    );

  test('takes another name as it is typed: kept by leaving the line, nothing but spaces is not', async () => {
    answerRecord();
    await open(<SurveyScreen />);
    write('record-name', '   ');
    fireEvent.blur(row('record-name'));
    write('record-name', 'Bagging infeed belt 2');
    fireEvent.blur(row('record-name'));
    await settled();
    expect(server.bodies('PUT', '/machines/C-21/record')).toEqual([{ name: 'Bagging infeed belt 2', author: 'Ines Calder' }]);
  });

  test('says whose motor would turn before an address is changed', async () => {
    answerRecord();
    await open(<SurveyScreen />);
    await type('record-unit', '7.5');
    expect(screen.getByRole('alert').textContent).toContain('takes a whole number; 7.5 is not one');
    await touchText('Leave');
    await type('record-unit', '77');
    expect(server.bodies('PUT', '/machines/C-21/record')).toEqual([]);
    expect(screen.getByText(/hold to run turns that drive’s motor/)).toBeTruthy();
    await touchText('C-21 answers at 77');
    expect(server.bodies('PUT', '/machines/C-21/record')).toEqual([{ unitId: 77, author: 'Ines Calder' }]);
    await settled();
    expect(screen.queryByText(/hold to run turns/)).toBeNull();
  });
});
