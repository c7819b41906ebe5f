import { act, fireEvent, render, screen } from '@testing-library/react';
import { present } from '@yare/core';
import { Choices, closeEntry, EntryPad, openEntry, readEntry, useEntryStore, type Entry } from '../src/ui/entry';
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
  pad(power);
  const input = screen.getByTestId('entry-input');
  fireEvent.change(input, { target: { value: '5,5' } });
  fireEvent.keyDown(input, { key: 'Enter' });
  expect(set).toHaveBeenCalledWith(5.5, 'kW');
  act(() => openEntry(power));
  fireEvent.keyDown(screen.getByTestId('entry-input'), { key: 'Escape' });
  expect(useEntryStore.getState().id).toBeNull();
});

test('what is not a figure is a sentence; empty is allowed only where the plate may leave it out', () => {
  expect(readEntry(power, '7.5.1', 'kW')).toEqual({ sentence: '“7.5.1” is not a figure. Use digits and one decimal point.' });
  expect(readEntry(power, '', 'kW')).toEqual({ sentence: 'Output needs a figure.' });
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
