import {
  powerChecks,
  itemStanding,
  emptySurvey,
  changedText,
  standsNow,
  stageAfter,
  stages,
  surveyLacks,
  type StandingContext,
  type StagePath,
  stageAt,
  proofRelies,
} from '@yare/commissioning';
import { fireEvent, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import type { Proof, Survey } from '@yare/contract';
import { copperAt, present } from '@yare/core';
import { editDraft, useEdits } from '../src/data/edits';
import { findSettings } from '../src/data/settingsList';
import { OverloadCurve } from '../src/features/protection/OverloadCurve';
import { tuneRows } from '@yare/commissioning';
import { DifferenceRow } from '../src/features/write/DifferenceRow';
import { WriteReport } from '../src/features/write/WriteReport';
import { Segments } from '../src/ui/Segments';
import { StageFindings } from '../src/machine/StageFindings';
import { TextLine } from '../src/ui/TextLine';
import { ThemeProvider } from '../src/ui/theme';
import { demoMachine, demoModel } from './demoModel';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));
const show = (node: ReactNode) => render(<ThemeProvider>{node}</ThemeProvider>);

beforeEach(() => {
  useEdits.setState({ machines: {}, offline: false });
  Object.assign(globalThis, { fetch: jest.fn(() => new Promise(() => undefined)) });
});

const survey: Survey = { ...emptySurvey(demoMachine('C-21')), ambient: 30, altitude: 100, cableLength: 20 };
const proof = (stage: string, item: string, relied: Proof['relied'], outcome: Proof['outcome'] = 'passed'): Proof => ({
  id: 1,
  stage,
  item,
  outcome,
  told: 'y',
  facts: null,
  relied,
  author: 'Ines Calder',
  at: '2026-01-01T00:00:00Z',
});

const model = demoModel('C-21', { inDrive: { '2h': 1, '3a': 2 } });
const context = (proofs: Proof[] = [], change: Partial<StandingContext> = {}): StandingContext => {
  const now = standsNow(model, survey);
  return {
    ...{ recordings: 0, runs: 0 },
    survey,
    surveyed: true,
    proofOf: (stage, item) => {
      const newest = proofs.find((p) => p.stage === stage && p.item === item);
      return itemStanding(newest, now);
    },
    ...change,
  };
};
const standing = (path: StagePath, c = context(), m = model) => stageAt(path).standing(m, c);

describe('how far a stage is', () => {
  test('a proof holds while the drive is as it was, and goes stale by name when it is not', () => {
    expect(standing('direction').proof).toBe('not yet');
    expect(standing('direction', context([proof('direction', 'direction', { 'setting 2h': 1, plate: 1, drive: 1 })])).proof).toBe('proved');
    expect(standing('direction', context([proof('direction', 'direction', { 'setting 2h': 0 })]))).toEqual({
      proof: 'stale',
      text: 'to be proved again: output phase order 2h changed',
    });
    expect(standing('direction', context([proof('direction', 'direction', { plate: 4 })])).text).toContain('plate changed');
    expect(standing('direction', context([proof('direction', 'direction', {}, 'failed')])).proof).toBe('act');
  });

  test('a figure changed and changed back voids nothing, nor does one the proof did not rely on', () => {
    const before = context([proof('direction', 'direction', { 'plate power': 3, 'plate speed': 1760, 'plate connection': 'star' })]);
    expect(standing('direction', before).proof).toBe('proved');
    // the plate is at another revision, with the same figures, or another current
    const { machine } = model;
    const edited = (change: object) =>
      demoModel('C-21', { machine: { plate: { ...machine.plate, revision: 7, plate: { ...machine.plate.plate, ...change } } } });
    const state = (change: object) =>
      itemStanding(
        proof('direction', 'direction', { 'plate power': 3, 'plate speed': 1760, 'plate connection': 'star' }),
        standsNow(edited(change), survey),
      );
    expect(state({})).toEqual({ state: 'passed' });
    expect(state({ current: 4.1 })).toEqual({ state: 'passed' });
    expect(state({ speed: 1750 })).toEqual({ state: 'stale', changed: ['plate speed'] });
    expect(changedText(model, ['plate speed', 'survey ambient'])).toBe('the speed on the nameplate and the ambient temperature');
    const mounted = proof('before-power', 'mounted', { 'survey ambient': survey.ambient });
    expect(itemStanding(mounted, standsNow(model, { ...survey, altitude: 900 }))).toEqual({ state: 'passed' });
    expect(itemStanding(mounted, standsNow(model, { ...survey, ambient: 50 }))).toMatchObject({ state: 'stale' });
  });

  test('another drive makes every proof of the old one stale', () => {
    const other = demoModel('C-21', { machine: { driveRevision: 2 } });
    const now = standsNow(other, survey);
    expect(itemStanding(proof('tune', 'tune', { drive: 1 }), now)).toEqual({ state: 'stale', changed: ['drive'] });
    expect(changedText(other, ['drive', 'setting 3a', 'setting 3b'])).toBe('another drive, acceleration time 3a and 1 more');
  });

  test('survey: not made, lacking, made', () => {
    expect(standing('survey', context([], { surveyed: false })).proof).toBe('not yet');
    expect(surveyLacks({ ...survey, altitude: null }, { drivenEstimated: false })).toEqual(['altitude']);
    expect(standing('survey', context([], { survey: { ...survey, altitude: null } })).text).toBe('lacks altitude');
    expect(standing('survey').proof).toBe('proved');
  });

  test('before power is proved by all of its checks, and one that failed is worst', () => {
    const all = powerChecks.map((p) => proof('before-power', p.id, {}));
    expect(standing('before-power', context(all)).proof).toBe('proved');
    expect(standing('before-power', context(all.slice(1))).text).toBe('9 of 10 proved');
    expect(standing('before-power', context([...all.slice(1), proof('before-power', 'isolated', {}, 'failed')])).proof).toBe('act');
  });

  test('a drive too small here, a figure against the plate, and a family that cannot measure', () => {
    expect(standing('drive', context([], { survey: { ...survey, phases: 1, ambient: 55 } })).text).toBe('Osier G G2.2 is too small here');
    expect(standing('drive').proof).toBe('proved');
    const burning = demoModel('C-21', { changes: { '7a': { value: 5.8, source: 'chosen' } } });
    expect(standing('protection', context(), burning)).toEqual({ proof: 'act', text: 'one thing to look at' });
    expect(standing('tune', context(), demoModel('M-55')).text).toContain('cannot measure');
  });

  test('the stages follow one another in the order of the job, then it ends', () => {
    expect(present(stageAfter('plate')).path).toBe('drive');
    const last = present(stages.filter((x) => x.number !== null).at(-1));
    expect(stageAfter(last.path)).toBeNull();
    expect(new Set(stages.map((s) => s.key)).size).toBe(stages.length);
    expect(proofRelies('direction', 'direction', model)).toEqual({ settings: ['2h'], plate: true, survey: false });
  });
});

test('which side is newer: the draft until the drive was changed after it was found', () => {
  expect(demoModel('C-21').newer).toBe('draft');
  expect(demoModel('C-21', { draft: {} }).newer).toBeNull();
  expect(demoModel('C-21', { inDrive: null }).newer).toBeNull();
});

describe('what a tune measures', () => {
  test('estimate from the plate alone, measured from the drive, in the setting’s own unit', () => {
    const rows = tuneRows(demoModel('F-32', { inDrive: { '11/8': 95 } }));
    const stator = present(rows.find((r) => r.code === '11/8'));
    expect(stator).toMatchObject({ unit: 'mΩ', measured: 95 });
    expect(stator.estimate).toBeGreaterThan(30);
    expect(stator.estimate).toBeLessThan(300);
    expect(present(rows.find((r) => r.code === '11/12')).measured).toBeNull();
    expect(tuneRows(demoModel('M-55'))).toEqual([]);
  });

  test('a measured value moves the look-ahead’s motor and not the estimate it is compared with', () => {
    const plain = demoModel('F-32');
    const tuned = demoModel('F-32', { inDrive: { '11/8': 95 }, changes: { '11/8': { value: 95, source: 'measured' } } });
    if (!plain.draftSpec.ok || !tuned.draftSpec.ok) throw new Error('no spec');
    expect(tuned.draftSpec.spec.circuit.r1).toBeCloseTo(0.095 / copperAt(25), 9);
    expect(present(tuned.plateCircuit).r1).toBe(plain.draftSpec.spec.circuit.r1);
  });

  test('it stands on the nameplate in the drive', () => {
    expect(proofRelies('tune', 'tune', demoModel('C-21')).settings).toEqual(expect.arrayContaining(['1b', '1d', '1e']));
  });
});

test('the overload is drawn with its time at 150 %', () => {
  show(<OverloadCurve overload={3.9} plate={3.9} limit={8.7} rating={5.8} tripClass={10} overloadShare={1.5} runUp={{ current: 5, time: 2 }} />);
  expect(screen.getByRole('img', { name: /at 150 % of 3\.90 A it trips after/ })).toBeTruthy();
  expect(screen.getByText('plate 3.90 A')).toBeTruthy();
  expect(screen.getByText('run-up')).toBeTruthy();
});

describe('a way out of a finding', () => {
  test('changes the draft and can be undone', () => {
    const model = demoModel('C-21', { changes: { '7a': { value: 5.8, source: 'chosen' } } });
    show(<StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'protection' && f.severity === 'error')} />);
    fireEvent.click(screen.getByRole('button', { name: 'Use the plate’s 3.90 A' }));
    const { draft, undo } = present(useEdits.getState().machines['C-21']);
    expect(draft.changes['7a']).toEqual({ value: 3.9, source: 'plate' });
    expect(undo).toHaveLength(1);
  });

  test('changes the plate where the plate is wrong', () => {
    const model = demoModel('C-21', { plate: { leads: 9, joined: 'parallel', voltage: 230, current: 7.8 } });
    show(<StageFindings model={model} findings={model.findings.filter((f) => f.id === 'supply above plate')} />);
    fireEvent.click(screen.getByRole('button', { name: 'Use the 460 V connection, 3.90 A' }));
    expect(present(useEdits.getState().machines['C-21']).plate.changes).toEqual({ joined: 'series', voltage: 460, current: 3.9 });
  });
});

describe('a write', () => {
  const model = demoModel('M-55', { changes: { w22: { value: 0.26, source: 'plate' } } });
  const setting = present(model.drafted.at('w22'));

  test('a rounding above 5 % on the overload current is an error beside the value', () => {
    show(<DifferenceRow model={model} setting={setting} against={{ name: 'in drive', value: 0.8 }} />);
    expect(screen.getByText('in drive 0.8 A')).toBeTruthy();
    expect(screen.getByRole('alert').textContent).toContain('will store 0.3 A, 15.4 % more');
  });

  test('is chosen one by one', () => {
    const onChoose = jest.fn();
    show(<DifferenceRow model={model} setting={setting} against={{ name: 'in drive', value: 0.8 }} chosen onChoose={onChoose} />);
    const box = screen.getByRole('checkbox', { name: 'Overload amperes w22' });
    expect(box.getAttribute('aria-checked')).toBe('true');
    fireEvent.click(box);
    expect(onChoose).toHaveBeenCalledTimes(1);
  });

  test('its report tells each line, and leaves out what this drive has not', () => {
    const line = { name: 'Overload amperes', unit: 'A', before: 0.8, asked: 0.6, stored: 0.6, readBack: null, result: 'not reached' } as const;
    show(
      <WriteReport
        model={model}
        lines={[
          { ...line, code: 'w22' },
          { ...line, code: '3a' },
        ]}
      />,
    );
    expect(screen.getByTestId('line-w22').textContent).toContain('not written · was 0.8 A');
    expect(screen.queryByTestId('line-3a')).toBeNull();
  });
});

test('choices side by side: one in force, none while disabled', () => {
  const onChoose = jest.fn();
  const options = [
    { value: 'a', text: 'One' },
    { value: 'b', text: 'Two' },
  ];
  const { rerender } = show(<Segments label="Which" options={options} value="a" onChoose={onChoose} />);
  expect(screen.getByRole('radio', { name: 'One' }).getAttribute('aria-checked')).toBe('true');
  fireEvent.click(screen.getByRole('radio', { name: 'Two' }));
  expect(onChoose).toHaveBeenCalledWith('b');
  rerender(
    <ThemeProvider>
      <Segments label="Which" options={options} value="a" onChoose={onChoose} disabled />
    </ThemeProvider>,
  );
  fireEvent.click(screen.getByRole('radio', { name: 'Two' }));
  expect(onChoose).toHaveBeenCalledTimes(1);
});

test('a line of words shows its act only when there is one', () => {
  const onAct = jest.fn();
  const { rerender } = show(<TextLine label="Name" value="" onChange={() => undefined} placeholder="Name it" />);
  expect(screen.queryByRole('button')).toBeNull();
  rerender(
    <ThemeProvider>
      <TextLine label="Name" value="x" onChange={() => undefined} placeholder="Name it" act="Save" onAct={onAct} />
    </ThemeProvider>,
  );
  fireEvent.click(screen.getByRole('button', { name: 'Save' }));
  expect(onAct).toHaveBeenCalled();
});

test('what is locked at standstill and what can only be read are told apart', () => {
  const model = demoModel('C-21');
  const standstill = findSettings(model, '', 'locked');
  const read = findSettings(model, '', 'read');
  expect(standstill.every((s) => s.access === 'stopped')).toBe(true);
  expect(read.map((s) => s.code)).toEqual(['9k', '9m', '9n']);
  expect(findSettings(model, 'brake open', 'all').map((s) => s.code)).toContain('8g');
});

test('an edit made by an older page, which knew no survey, is taken over', async () => {
  const old = {
    state: {
      machines: {
        'C-21': {
          draft: { changes: {}, base: null, conflict: null, refused: null },
          plate: { changes: {}, base: null, conflict: null, refused: null },
          undo: [],
        },
      },
      offline: false,
    },
    version: 0,
  };
  localStorage.setItem('yare.edits', JSON.stringify(old));
  await useEdits.persist.rehydrate();
  expect(present(useEdits.getState().machines['C-21']).survey.changes).toEqual({});
  editDraft('C-21', { '3a': { value: 4, source: 'chosen' } });
  expect(present(present(useEdits.getState().machines['C-21']).draft.changes['3a']).value).toBe(4);
});
