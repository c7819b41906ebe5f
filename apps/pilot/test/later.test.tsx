import { act, cleanup, render, screen } from '@testing-library/react';
import { Component, type PropsWithChildren } from 'react';
import { later, parts } from '../src/ui/later';

interface Part {
  Page: (props: { name: string }) => React.ReactNode;
}
const part: Part = { Page: ({ name }) => <p>{`page of ${name}`}</p> };

/** A part that comes when it is let come. */
function slow() {
  let come: (p: Part) => void = () => undefined;
  let asked = 0;
  const load = () => {
    asked += 1;
    return new Promise<Part>((done) => {
      come = done;
    });
  };
  return { load, come: () => act(async () => come(part)), asked: () => asked };
}
afterEach(cleanup);

test('what is not there yet is stood in for, and drawn when it has come', async () => {
  const s = slow();
  const Page = later(s.load)(
    (p) => p.Page,
    ({ name }) => <p>{`waiting for ${name}`}</p>,
  );
  render(<Page name="P-11" />);
  expect(screen.getByText('waiting for P-11')).toBeTruthy();
  await s.come();
  expect(await screen.findByText('page of P-11')).toBeTruthy();
});

test('once it is there, every component of it is drawn at once and nothing is asked for again', async () => {
  const s = slow();
  const of = later(s.load);
  const wait = () => <p>waiting</p>;
  const One = of((p) => p.Page, wait);
  const Two = of((p) => p.Page, wait);
  render(<One name="one" />);
  await s.come();
  await screen.findByText('page of one');
  cleanup();
  render(<Two name="two" />);
  expect(screen.getByText('page of two')).toBeTruthy();
  expect(screen.queryByText('waiting')).toBeNull();
  expect(s.asked()).toBe(1);
});

test('one that has been drawn through its stand-in keeps what it holds when the part is there', async () => {
  const s = slow();
  let mounted = 0;
  const Page = later(s.load)(
    () =>
      function Counted({ name }: { name: string }) {
        mounted += 1;
        return <p>{`${name} ${mounted}`}</p>;
      },
    () => null,
  );
  const { rerender } = render(<Page name="a" />);
  await s.come();
  const first = await screen.findByText(/^a \d$/);
  rerender(<Page name="b" />);
  // the same element: it was not made anew
  expect(screen.getByText(/^b \d$/)).toBe(first);
});

class Boundary extends Component<PropsWithChildren, { failed: boolean }> {
  override state = { failed: false };
  static getDerivedStateFromError = () => ({ failed: true });
  override render() {
    return this.state.failed ? <button onClick={() => this.setState({ failed: false })}>again</button> : this.props.children;
  }
}

test('what could not be fetched is told once, and fetched when it is asked for again', async () => {
  const told = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  let asked = 0;
  const Page = later(async () => {
    asked += 1;
    if (asked === 1) throw new Error('away');
    return part;
  })(
    (p) => p.Page,
    () => <p>waiting</p>,
  );
  render(
    <Boundary>
      <Page name="P-11" />
    </Boundary>,
  );
  const again = await screen.findByText('again');
  expect(asked).toBe(1);
  await act(async () => again.click());
  expect(await screen.findByText('page of P-11')).toBeTruthy();
  expect(asked).toBe(2);
  told.mockRestore();
});

test('every part can be fetched beforehand', async () => {
  const s = slow();
  const before = parts.size;
  later(s.load);
  expect(parts.size).toBe(before + 1);
  const fetched = [...parts].at(-1)?.();
  await s.come();
  expect(await fetched).toBe(part);
  expect(s.asked()).toBe(1);
});
