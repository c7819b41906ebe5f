import { powerChecks } from '@yare/commissioning';
import { present } from '@yare/core';
import { act, fireEvent, screen, within } from '@testing-library/react';
import { router } from 'expo-router';
import { BeforePowerScreen } from '../src/features/before-power/BeforePowerScreen';
import { DriveScreen } from '../src/features/drive/DriveScreen';
import { StartScreen } from '../src/features/start/StartScreen';
import { SurveyScreen } from '../src/features/survey/SurveyScreen';
import { freshServer, open, row, settled, touch, touchRow, touchText, type, type FakeServer } from './fakeServer';

const mockRoute = { tag: 'C-21' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeEach(() => {
  mockRoute.tag = 'C-21';
  server = freshServer();
});
const alerts = () => screen.queryAllByRole('alert').map((a) => a.textContent);

describe('any page of a machine', () => {
  test('says that it reads, and then what it read', async () => {
    let answer = (): void => undefined;
    const own = globalThis.fetch;
    globalThis.fetch = (async (...asked: Parameters<typeof fetch>) => {
      await new Promise<void>((done) => (answer = done));
      return own(...asked);
    }) as typeof fetch;
    await open(<SurveyScreen />);
    expect(screen.getByRole('status').textContent).toBe('Reading the sheet…');
    globalThis.fetch = own;
    await act(async () => answer());
  });

  test('of a machine that is not there says so, with a way to try again', async () => {
    mockRoute.tag = 'X-99';
    await open(<SurveyScreen />);
    // one silent second try goes before
    await act(async () => new Promise((done) => setTimeout(done, 1200)));
    expect(alerts()).toEqual([expect.stringContaining('There is no machine X-99.')]);
    server.machines.set('X-99', { ...server.of('C-21'), machine: { ...server.of('C-21').machine, tag: 'X-99' } });
    await touchText('Try again');
    expect(row('survey-voltage').textContent).toContain('400');
  });

  test('leads back to the plant, to the work plan and to any stage by a key on a wide screen', async () => {
    await open(<SurveyScreen />);
    for (const [key, path] of [
      ['m', '/m/C-21'],
      // a stage's number counts right after M: on a page with figures a digit belongs to one of them
      ['0', '/'],
      ['3', '/m/C-21/plate'],
      ['s', '/m/C-21/settings'],
    ] as const) {
      fireEvent.keyDown(window, { key, code: key });
      expect(router.navigate).toHaveBeenLastCalledWith(path);
    }
  });
});

describe('Survey', () => {
  test('what nobody took down is a dash, named in a note, and becomes a revision with its author', async () => {
    await open(<SurveyScreen />);
    expect(row('survey-ambient').textContent).toContain('not recorded');
    expect(screen.getByText(/Still to be recorded: .*ambient.*altitude/)).toBeTruthy();
    await type('survey-ambient', '45');
    expect(server.bodies('PUT', '/machines/C-21/survey')).toEqual([
      expect.objectContaining({ revision: 0, author: 'Ines Calder', survey: expect.objectContaining({ ambient: 45, altitude: null, voltage: 400 }) }),
    ]);
    expect(row('survey-ambient').textContent).toContain('45');
    expect(screen.getByText(/Above 40 °C the drive carries less/)).toBeTruthy();
  });

  test('a figure outside what can be is refused in a sentence and stays in hand', async () => {
    await open(<SurveyScreen />);
    await type('survey-voltage', '9');
    expect(within(row('entry')).getByRole('alert').textContent).toMatch(/Supply voltage takes 50 to 1000 V; 9 is outside\./);
    expect((row('entry-input') as HTMLInputElement).value).toBe('9');
    expect(server.bodies('PUT', '/machines/C-21/survey')).toEqual([]);
  });

  test('Set, next goes down the sheet without leaving the pad', async () => {
    await open(<SurveyScreen />);
    await touchRow('survey-ambient');
    await touch(screen.getByRole('button', { name: '3' }));
    await touchText('Set, next');
    expect(row('entry-input').getAttribute('aria-label')).toBe('Altitude');
  });

  test('a lost server loses nothing: it is kept on the device and sent when it is back', async () => {
    await open(<SurveyScreen />);
    server.down = true;
    await type('survey-altitude', '1400');
    expect(row('survey-altitude').textContent).toContain('1400');
    expect(screen.getAllByText(/kept on this device/)).toHaveLength(2);
    server.down = false;
    await act(async () => new Promise((done) => setTimeout(done, 3200)));
    expect(present(server.of('C-21').survey).survey.altitude).toBe(1400);
    expect(screen.queryByText(/kept on this device/)).toBeNull();
  });

  test('long cables and an open screen are told, with why', async () => {
    await open(<SurveyScreen />);
    await type('survey-cableLength', '80');
    expect(screen.getAllByText(/80 m of motor cable: pulses reflect at the motor/).length).toBeGreaterThan(0);
    expect(screen.getByText('Output choke or filter')).toBeTruthy();
  });

  test('why it is done is kept in words', async () => {
    await open(<SurveyScreen />);
    fireEvent.change(row('survey-why'), { target: { value: '  after a flood  ' } });
    fireEvent.blur(row('survey-why'));
    await settled();
    expect(present(server.of('C-21').survey).survey.why).toBe('after a flood');
  });

  test('two people at once: the second is told what the first put there and chooses', async () => {
    await open(<SurveyScreen />);
    const theirs = { revision: 1, author: 'Tom Reed', at: '2026-01-03T00:00:00Z', survey: { ...baseSurvey(), ambient: 20 } };
    server.special.push((r) =>
      r.method === 'PUT' && r.path.endsWith('/survey') && r.body.revision === 0
        ? { status: 409, body: { type: 'x', title: 'x', status: 409, detail: 'Tom Reed was first.', current: theirs } }
        : undefined,
    );
    await type('survey-ambient', '45');
    expect(screen.getByText(/Tom Reed/)).toBeTruthy();
    await touchText('Keep mine on top');
    await settled();
    expect(server.bodies('PUT', '/machines/C-21/survey').at(-1)).toMatchObject({ revision: 1, survey: { ambient: 45 } });
  });
});

const baseSurvey = () => ({
  why: '',
  voltage: 400,
  frequency: 50,
  phases: 3 as const,
  ambient: null as number | null,
  altitude: null,
  cableLength: null,
  screened: null,
  lineVoltages: null,
  insulation: null,
});

const passAll = async (until: string) => {
  for (const { id } of powerChecks) {
    if (id === until) return;
    if (!screen.queryByTestId(`pass-${id}`) && !screen.queryByTestId(`record-${id}`)) await touchRow(`check-${id}`);
    if (screen.queryByTestId(`pass-${id}`)) await touchRow(`pass-${id}`);
  }
};

describe('Before power', () => {
  test('the first open check lies open; answered it stays open with its mark, and the next is opened by hand', async () => {
    await open(<BeforePowerScreen />);
    expect(screen.getByText('0 of 10 passed')).toBeTruthy();
    await touchRow('pass-isolated');
    expect(server.bodies('POST', '/machines/C-21/proofs')).toEqual([
      expect.objectContaining({ stage: 'before-power', item: 'isolated', outcome: 'passed', facts: { kind: 'look' }, author: 'Ines Calder' }),
    ]);
    expect(screen.getByText('1 of 10 passed')).toBeTruthy();
    expect(screen.queryByTestId('pass-isolated')).toBeNull();
    expect(screen.queryByTestId('pass-mounted')).toBeNull();
    expect(screen.getByTestId('undo-isolated')).toBeTruthy();
    await touchRow('next-check');
    expect(screen.getByTestId('pass-mounted')).toBeTruthy();
  });

  test('one taken before its turn is told what comes first, and nobody is locked out', async () => {
    await open(<BeforePowerScreen />);
    await touchRow('check-motorPhases');
    expect(screen.getByText('Before this one: isolated, locked, proved dead.')).toBeTruthy();
    await touchRow('pass-motorPhases');
    expect(screen.getByText('1 of 10 passed')).toBeTruthy();
  });

  test('what is not OK stands in red until it is checked again, and can be undone', async () => {
    await open(<BeforePowerScreen />);
    await touchRow('fail-isolated');
    await touchRow('check-mounted');
    expect(alerts()).toEqual([
      expect.stringContaining('Isolated, locked, proved dead: not OK. Put it right and check it again before power goes on.'),
    ]);
    await touchRow('check-isolated');
    await touchRow('undo-isolated');
    expect(server.of('C-21').proofs.map((p) => p.outcome)).toEqual(['taken back']);
  });
});

describe('Before power: readings', () => {
  test.each([
    ['3', '20', /0\.8 MΩ corrected to 40 °C, by the law of the winding that gives less, is below 5 MΩ: do not connect it/, 'failed'],
    ['0', '20', /0\.0 MΩ corrected to 40 °C, by .*, is below 5 MΩ/, 'failed'],
    ['80', '20', /20\.0 MΩ corrected to 40 °C, by .*; at least 5 MΩ is wanted\. Sound\./, 'passed'],
  ])('a winding of %s MΩ at %s °C', async (reading, temperature, says, outcome) => {
    await open(<BeforePowerScreen />);
    await passAll('insulation');
    await touchRow('check-insulation');
    expect(row('record-insulation').getAttribute('aria-disabled')).toBe('true');
    await type('figure-winding', temperature);
    expect(screen.queryByText(/corrected to 40 °C/)).toBeNull();
    await type('figure-insulation', reading);
    expect(screen.getByText(says)).toBeTruthy();
    await touchRow('record-insulation');
    expect(server.of('C-21').proofs.find((p) => p.item === 'insulation')).toMatchObject({ outcome, facts: { kind: 'insulation', least: 5 } });
  });

  test.each([
    [['401', '362', '403'], /6\.9 % unbalance: above 5 % no motor may run/, 'failed'],
    [['400', '0', '400'], /a blown fuse/, 'failed'],
    [['0', '0', '0'], /No volts at all/, 'failed'],
    [['402', '398', '400'], /0\.5 % unbalance, nothing to derate/, 'passed'],
  ])('a supply of %s V', async (lines, says, outcome) => {
    await open(<BeforePowerScreen />);
    await touchRow('check-lineVoltages');
    for (const [i, name] of ['L1–L2', 'L2–L3', 'L3–L1'].entries()) {
      expect(row('record-lineVoltages').getAttribute('aria-disabled')).toBe('true');
      await type(`figure-${name}`, present(lines[i]));
    }
    expect(screen.getByText(says)).toBeTruthy();
    await touchRow('record-lineVoltages');
    expect(present(server.of('C-21').proofs.find((p) => p.item === 'lineVoltages')).outcome).toBe(outcome);
  });

  test('a proof the server refuses is told and nothing is ticked', async () => {
    server.special.push((r) =>
      r.path.endsWith('/proofs') ? { status: 422, body: { type: 'x', title: 'x', status: 422, detail: 'Give a name first.' } } : undefined,
    );
    await open(<BeforePowerScreen />);
    await touchRow('pass-isolated');
    expect(alerts()).toEqual([expect.stringContaining('Give a name first.')]);
    expect(screen.getByText('0 of 10 passed')).toBeTruthy();
  });
});

describe('Drive', () => {
  test('big enough here, and too small at 50 °C with the size that fits as the way out', async () => {
    mockRoute.tag = 'F-32';
    await open(<DriveScreen />);
    expect(screen.getAllByText(/14 % to spare/).length).toBeGreaterThan(0);
    const hot = { revision: 1, author: 'x', at: 'x', survey: { ...baseSurvey(), ambient: 50, altitude: 1500, cableLength: 20 } };
    server = freshServer();
    server.of('F-32').survey = hot;
    await open(<DriveScreen />);
    expect(row('derating-ambient').textContent).toContain('75');
    expect(row('derating-altitude').textContent).toContain('95');
    expect(alerts()).toEqual([expect.stringMatching(/carries 44\.2 A here and the motor asks 54\.4 A: 19 % too small/)]);
    expect(screen.getByRole('button', { name: /Take Sallow/ })).toBeTruthy();
  });

  test('one missing by a hair is told by how much', async () => {
    mockRoute.tag = 'F-32';
    server.of('F-32').survey = { revision: 1, author: 'x', at: 'x', survey: { ...baseSurvey(), ambient: 45, altitude: 0, cableLength: 5 } };
    await open(<DriveScreen />);
    expect(alerts()).toEqual([expect.stringContaining('0.3 % too small')]);
  });

  test('a factory start of the other region says what it undoes before anything changes', async () => {
    mockRoute.tag = 'P-11';
    await open(<DriveScreen />);
    await touchRow('region-60');
    expect(row('factory-start').textContent).toMatch(/undoes \d+ values/);
    expect(server.bodies('PUT', '/machines/P-11/draft')).toEqual([]);
  });
});

describe('Start from', () => {
  test('a template shows each value with its why, and takes them in one act that can be undone', async () => {
    mockRoute.tag = 'P-11';
    await open(<StartScreen />);
    expect(screen.getByText('3 would change')).toBeTruthy();
    expect(screen.getByText(/a centrifugal pump asks little torque at low speed/)).toBeTruthy();
    await touchRow('take-start');
    expect(screen.getByText('3 values taken into the draft of P-11. Nothing was written to the drive.')).toBeTruthy();
    expect(present(server.bodies('PUT', '/machines/P-11/draft').at(-1)).changes).toHaveLength(3);
    await touchText('Undo');
    expect(screen.getByText('3 would change')).toBeTruthy();
  });

  test('from another machine: what is alike is listed, what must not be copied too, with why', async () => {
    mockRoute.tag = 'P-11';
    await open(<StartScreen />);
    await touchRow('from-machine');
    await touchRow('copy-P-41');
    expect(screen.getByText(/\d+ would change/)).toBeTruthy();
    expect(screen.getByText(/Not to be copied/)).toBeTruthy();
    expect(screen.queryByTestId('copy-P-11')).toBeNull();
  });
});
