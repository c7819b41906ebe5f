import { demoPlant } from '@yare/demo-plant';
import { act, fireEvent, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { bookById, settingsOf } from '@yare/books';
import type { ActCode, Sheet } from '@yare/contract';
import { actSamples } from '../../../packages/contract/test/actSamples';
import { useEdits } from '../src/data/edits';
import { keys, queryClient } from '../src/data/client';
import { ActionBar } from '../src/ui/bar';
import { useEntryStore } from '../src/ui/entryStore';
import { SettingRow } from '../src/machine/SettingRow';
import { Finding, SheetRow } from '../src/ui/sheet';
import { ProofShape, StateShape, stateWord, type MachineState } from '../src/ui/shapes';
import { ThemeProvider } from '../src/ui/theme';
import { when } from '../src/ui/when';
import { checkPlate, completePlate, present } from '@yare/core';
import { demoModel, demoSheet } from './demoModel';
import { workedOut } from '../src/features/plate/workedOut';
import { sentenceOf } from '../src/machine/logText';

const show = (node: ReactNode) => render(<ThemeProvider>{node}</ThemeProvider>);

test('a row is read out whole: label, figure and unit', () => {
  const press = jest.fn();
  show(<SheetRow label="Rated speed" second="at full load" figure="2925" unit="rpm" mark="P" onPress={press} />);
  fireEvent.click(screen.getByRole('button', { name: 'Rated speed 2925 rpm' }));
  expect(press).toHaveBeenCalled();
});

test('a finding stands as a sentence with its way out', () => {
  const out = jest.fn();
  show(<Finding severity="error" sentence="88 is 0.88 written in percent." act="Use 0.88" onAct={out} />);
  expect(screen.getByRole('alert').textContent).toContain('88 is 0.88');
  fireEvent.click(screen.getByRole('button', { name: 'Use 0.88' }));
  expect(out).toHaveBeenCalled();
});

test('acts answer to their key, not while something is typed, not when disabled', () => {
  const write = jest.fn();
  const undo = jest.fn();
  show(
    <>
      <input data-testid="text" />
      <ActionBar
        acts={[
          { text: 'Undo', hotkey: 'z', disabled: true, onPress: undo },
          { text: 'Write 2 changes', hotkey: 'w', main: true, onPress: write },
        ]}
      />
    </>,
  );
  fireEvent.keyDown(window, { key: 'w' });
  fireEvent.keyDown(window, { key: 'W' });
  expect(write).toHaveBeenCalledTimes(2);
  fireEvent.keyDown(screen.getByTestId('text'), { key: 'w' });
  fireEvent.keyDown(window, { key: 'w', ctrlKey: true });
  fireEvent.keyDown(window, { key: 'z' });
  expect(write).toHaveBeenCalledTimes(2);
  expect(undo).not.toHaveBeenCalled();
});

test('every state and proof has a shape of its own, told apart without colour', () => {
  const drawn = (node: ReactNode) => {
    const { container, unmount } = show(node);
    const svg = present(container.querySelector('svg')).innerHTML.replace(/(fill|stroke)="[^"]*"/g, '');
    unmount();
    return svg;
  };
  const states = Object.keys(stateWord) as MachineState[];
  expect(new Set(states.map((s) => drawn(<StateShape state={s} />))).size).toBe(states.length);
  const proofs = ['proved', 'not yet', 'stale', 'act'] as const;
  expect(new Set(proofs.map((p) => drawn(<ProofShape proof={p} />))).size).toBe(proofs.length);
});

describe('a setting of the draft', () => {
  const p11 = present(demoPlant[0]);
  const settings = settingsOf(bookById(p11.bookId), p11.size);
  const sheet = (kind: Sheet['kind']) => demoSheet('P-11', kind, {});
  const model = (changes = {}) => demoModel('P-11', { draft: {}, changes });
  const setting = (code: string) => present(settings.find((s) => s.code === code));
  beforeEach(() => {
    useEdits.setState({ machines: {}, offline: false });
    queryClient.setQueryData(keys.sheets('P-11'), { draft: sheet('draft'), inDrive: sheet('in drive'), asFound: null });
    Object.assign(globalThis, { fetch: jest.fn(() => new Promise(() => undefined)) });
  });

  test('shows where its value came from, and what the drive holds when that differs', () => {
    show(<SettingRow model={model({ '3a': { value: 7, source: 'chosen' } })} setting={setting('3a')} stage="motion" />);
    const row = screen.getByTestId('setting-3a');
    expect(row.textContent).toContain('C');
    expect(row.textContent).toContain('7.0');
    expect(row.textContent).toContain('in drive 10.0');
  });

  test('opens for typing with its own range', () => {
    show(<SettingRow model={model()} setting={setting('3a')} stage="motion" />);
    fireEvent.click(screen.getByTestId('setting-3a'));
    expect(useEntryStore.getState()).toMatchObject({ id: 'P-11 motion 3a', text: '10', unit: 's' });
  });

  test('a choice opens its choices; the one touched becomes an edit of this device with undo', () => {
    show(<SettingRow model={model()} setting={setting('3g')} stage="motion" />);
    fireEvent.click(screen.getByTestId('setting-3g'));
    act(() => void fireEvent.click(screen.getByRole('radio', { name: 'Coast' })));
    const edits = present(useEdits.getState().machines['P-11']);
    expect(edits.draft.changes['3g']).toEqual({ value: 1, source: 'chosen' });
    expect(edits.undo).toEqual([{ of: 'draft', before: { '3g': { value: 0, source: 'factory' } } }]);
    expect(screen.queryByRole('radiogroup')).toBeNull();
  });

  test('a contradiction stands under its row', () => {
    show(<SettingRow model={model({ '2a': { value: 60, source: 'chosen' } })} setting={setting('2a')} stage="motion" />);
    expect(screen.getByRole('alert').textContent).toContain('Minimum frequency must not exceed maximum frequency, which is 50 Hz.');
  });
});

test('what is worked out carries its formula with this plate’s numbers, estimates marked', () => {
  for (const m of demoPlant) {
    expect(checkPlate(m.plate)).toEqual([]);
    for (const row of workedOut(m.plate, completePlate(m.plate))) {
      expect(row.formula.length).toBeGreaterThan(0);
      expect(row.formula.join(' ')).not.toMatch(/NaN|undefined|Infinity/);
    }
  }
  const c21 = present(demoPlant.find((m) => m.tag === 'C-21'));
  const rows = workedOut(c21.plate, completePlate(c21.plate));
  expect(rows.find((r) => r.key === 'eta')).toMatchObject({ estimate: true });
  expect(present(rows.find((r) => r.key === 'table')).formula).toContain('never the overload setting');
});

test('the log speaks in sentences, whatever the act', () => {
  const event = (action: string, detail: unknown) =>
    sentenceOf({ id: 1, at: 'x', author: 'Ines Calder', action, tag: 'P-11', detail, device: null, address: null });
  const ramp = { code: '3a', value: 5, before: 10, name: 'Acceleration time', unit: 's', from: '10.0', to: '5.0' };
  expect(event('edit draft', { changes: [ramp] })).toBe('P-11 draft: Acceleration time 10.0 → 5.0 s');
  expect(event('edit draft', { changes: [{ ...ramp, from: undefined }, { code: '3b' }, ramp, ramp, ramp] })).toBe(
    'P-11 draft: Acceleration time 5.0 s; 3b; Acceleration time 10.0 → 5.0 s; and 2 more',
  );
  expect(
    event('edit survey', { before: { ambient: 30, why: 'new', insulation: null }, after: { ambient: 35.5, why: 'new', insulation: { reading: 1 } } }),
  ).toBe('P-11 survey: Ambient 30 → 35.5 °C; Insulation reading changed');
  expect(event('edit plate', { before: { speed: 1440 }, after: { speed: 1445 } })).toBe('P-11 nameplate: Rated speed 1440 → 1445 rpm');
  expect(event('write to drive', { codes: [1, 2], outcome: 'kept' })).toBe('P-11: 2 settings written to the drive, kept through power-off');
  expect(event('hold to run', { frequency: 10 })).toBe('P-11: held to run at 10 Hz');
  expect(event('survey', { before: null, after: { ambient: 30 } })).toBe('P-11 survey: Ambient – → 30 °C');
  expect(event('something new', {})).toBe('P-11 something new');
  expect(event('write to drive', {})).toBe('P-11 write to drive');
  expect(event('trip answered', null)).toBe('P-11 trip answered');
  expect(when('2026-11-23T13:05:09Z')).toMatch(/^23 Nov 2026, \d\d:05:09$/);
});

test.each(Object.keys(actSamples) as ActCode[])('%s is a sentence in the log', (action) => {
  const at = { id: 1, at: 'x', author: 'Ines Calder', action, tag: 'P-11', device: null, address: null };
  for (const step of ['done', 'failed']) {
    const sentence = sentenceOf({ ...at, detail: { ...actSamples[action], step } });
    expect(sentence).toMatch(/^(P-11:?|Demo plant:?|Motor|Saved motor|How long|Device) \S/);
    expect(sentence).not.toMatch(/undefined|null|NaN|\[object|: $/);
  }
});

test('what stops something acts at once, with the shortest touch', () => {
  const stop = jest.fn();
  show(<ActionBar acts={[{ text: 'Stop measuring', main: true, atOnce: true, onPress: stop }]} />);
  fireEvent.click(screen.getByRole('button', { name: 'Stop measuring' }));
  expect(stop).toHaveBeenCalled();
});
