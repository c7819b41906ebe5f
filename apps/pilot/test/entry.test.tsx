import { act, fireEvent, render, screen } from '@testing-library/react';
import { present } from '@yare/core';
import { Choices, EntryFoot, EntryPad } from '../src/ui/entry';
import { useGoing } from '../src/ui/going';
import { closeEntry, openEntry, readEntry, useEntryStore, type Entry } from '../src/ui/entryStore';
import { EntryRow } from '../src/ui/EntryRow';
import { useHotkeys } from '../src/ui/keys';
import { ThemeProvider } from '../src/ui/theme';

const set = jest.fn();
const power: Entry = {
  id: 'P-11 plate power',
  label: 'Output',
  value: 7.5,
  unit: 'kW',
  units: ['kW', 'hp'],
  decimals: 2,
  min: 0.01,
  max: 100,
  onSet: set,
};

const pad = (entry: Entry) =>
  render(
    <ThemeProvider>
      <EntryPad entry={entry} />
    </ThemeProvider>,
  );
const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));

beforeEach(() => {
  set.mockClear();
  jump.mockClear();
  act(() => useGoing.setState({ to: null }));
  act(closeEntry);
});

test('digits from the pad replace the old figure and Set gives the new one', () => {
  act(() => openEntry(power));
  pad(power);
  for (const key of ['1', '1', '.', '0']) press(key);
  press('Set');
  expect(set).toHaveBeenCalledWith(11, 'kW');
  expect(useEntryStore.getState().id).toBeNull();
});

test('the unit switch converts what stands there, and the value comes back in the row’s own unit', () => {
  act(() => openEntry(power));
  pad(power);
  fireEvent.click(screen.getByRole('radio', { name: 'hp' }));
  expect(useEntryStore.getState().text).toBe('10.058');
  press('Set');
  expect(set.mock.calls[0][0]).toBeCloseTo(7.5, 3);
});

test('a figure outside its range is told and stays in hand', () => {
  act(() => openEntry(power));
  pad(power);
  for (const key of ['9', '9', '9']) press(key);
  press('Set');
  expect(screen.getByRole('alert').textContent).toBe('Output takes 0.01 to 100 kW; 999.00 is outside.');
  expect(set).not.toHaveBeenCalled();
  expect(useEntryStore.getState().text).toBe('999');
});

test('Enter sets and Escape leaves', () => {
  act(() => openEntry(power));
  sheet(power);
  const input = screen.getByTestId('entry-input');
  fireEvent.change(input, { target: { value: '5,5' } });
  fireEvent.keyDown(input, { key: 'Enter' });
  expect(set).toHaveBeenCalledWith(5.5, 'kW');
  act(() => openEntry(power));
  fireEvent.keyDown(screen.getByTestId('entry-input'), { key: 'Escape' });
  expect(useEntryStore.getState().id).toBeNull();
});

const speed: Entry = { ...power, id: 'P-11 plate speed', label: 'Rated speed', value: 2925, unit: 'rpm', units: undefined, max: 60000 };
const jump = jest.fn();
function Sheet({ entries }: { entries: readonly Entry[] }) {
  useHotkeys([{ hotkey: '4', text: 'open a stage', onPress: jump }], true);
  return (
    <>
      {entries.map((e) => (
        <EntryRow key={e.id} entry={e} testID={e.label} />
      ))}
      <EntryFoot entries={entries}>{null}</EntryFoot>
    </>
  );
}
const sheet = (...entries: Entry[]) =>
  render(
    <ThemeProvider>
      <Sheet entries={entries} />
    </ThemeProvider>,
  );
/** Keys one after another with no time between, each at what has the focus at that moment. */
const keys = (typed: string[]) => typed.forEach((key) => fireEvent.keyDown(document.activeElement ?? document.body, { key }));

test('digits belong to the figure the keyboard is on, Enter goes to the next, and none is lost or opens a page', () => {
  const setSpeed = jest.fn();
  sheet(power, { ...speed, onSet: setSpeed });
  act(() => screen.getByTestId('Output').focus());
  // as fast as a scanner types: no time for the pad to come or go
  act(() => keys(['1', '1', 'Enter', '4', '4', '0', 'Enter']));
  expect(set).toHaveBeenCalledWith(11, 'kW');
  expect(setSpeed).toHaveBeenCalledWith(440, 'rpm');
  expect(jump).not.toHaveBeenCalled();
});

test('a pad that is opened twice still takes the digits, and a minus begins a figure', () => {
  sheet(power);
  act(() => openEntry(power));
  fireEvent.click(screen.getByTestId('Output'));
  act(() => screen.getByTestId('Output').focus());
  act(() => keys(['-', '4', '5', 'Backspace']));
  expect(useEntryStore.getState().text).toBe('-4');
  expect(jump).not.toHaveBeenCalled();
  act(() => keys(['Escape']));
  act(() => (document.activeElement as HTMLElement).blur());
  // with no figure in hand and the keyboard on none, the page has the key
  act(() => keys(['4']));
  expect(jump).toHaveBeenCalledTimes(1);
});

test('a digit pressed while the page is being left goes to no figure of it', () => {
  sheet(power, speed);
  act(() => openEntry(power));
  act(() => keys(['9', 'Enter']));
  act(() => useGoing.setState({ to: '/m/P-11' }));
  act(() => keys(['4']));
  expect(useEntryStore.getState().id).toBeNull();
  expect(jump).toHaveBeenCalledTimes(1);
});

test('what is not a number is a sentence; empty is allowed only where the plate may leave it out', () => {
  expect(readEntry(power, '7.5.1', 'kW')).toEqual({ sentence: '“7.5.1” is not a number. Use digits and one decimal point.' });
  expect(readEntry(power, '', 'kW')).toEqual({ sentence: 'Output needs a number.' });
  expect(readEntry({ ...power, optional: true }, ' ', 'kW')).toEqual({ value: null });
});

test('the text in hand is in storage, so a reload finds it', () => {
  act(() => openEntry(power));
  pad(power);
  press('4');
  expect(JSON.parse(present(localStorage.getItem('yare.entry'))).state).toMatchObject({ id: power.id, text: '4' });
});

test('a choice tells which one is in force and gives the one touched', () => {
  const choose = jest.fn();
  render(
    <ThemeProvider>
      <Choices
        options={[
          { value: 0, label: 'Ramp' },
          { value: 1, label: 'Coast' },
        ]}
        value={0}
        onChoose={choose}
      />
    </ThemeProvider>,
  );
  expect(screen.getByRole('radio', { name: 'Ramp' }).getAttribute('aria-checked')).toBe('true');
  fireEvent.click(screen.getByRole('radio', { name: 'Coast' }));
  expect(choose).toHaveBeenCalledWith(1);
});
