import type { BenchView } from '@yare/contract';
import { present } from '@yare/core';
import type { Locator, Page } from '@playwright/test';
import { as, expect, holdAct, outputHertz, setFigure, stands, test, unitOf, type Stack } from './stack';

/** A hand at the plant of one machine, not at the page. */
function plant(page: Page, stack: Stack, tag: keyof typeof unitOf) {
  const at = `${stack.url}/api/v1/machines/${tag}/bench`;
  const act = async (what: object): Promise<void> => {
    const answer = await page.request.post(at, {
      data: { author: 'Fitter', ...what },
    });
    expect([answer.status(), await answer.text()]).toEqual([200, expect.anything()]);
  };
  const view = async () => (await (await page.request.get(at)).json()) as BenchView;
  /** holds a button, as a finger that stays, until something was seen of it */
  const pressUntil = async (id: string, seen: () => Promise<void>): Promise<void> => {
    let held = true;
    const finger = async () => {
      // a press that is not repeated springs back; the view in between is the pace of it
      while (held) {
        await act({ panel: { [id]: 1 } });
        await view();
      }
    };
    await Promise.all([finger(), seen().finally(() => (held = false))]);
    await act({ panel: { [id]: 0 } });
  };
  return { act, view, pressUntil };
}

/** The check is broken off: a server that stood still, or a link that was lost, gives the panel its command back. */
const brokenOff = (page: Page) => page.getByTestId('wire-at-rest').or(page.getByText(/turns, or may wake by itself/));

/** Waits for something at the page, or for the check to be broken off; true when it was seen. */
async function seenBefore(page: Page, what: Locator): Promise<boolean> {
  await expect(what.or(brokenOff(page)).first()).toBeVisible();
  return (await what.count()) > 0;
}

/** Works whatever hangs at the terminal that is asked for until the page sees it answer, then lets go. */
async function workContact(page: Page, p: ReturnType<typeof plant>, terminal: string): Promise<void> {
  const { wires, panel } = await p.view();
  const { device: id } = present(wires.find((w) => w.terminal === terminal));
  const answers = async () => void (await seenBefore(page, page.getByText(/It answers/)));
  if (id === null) {
    await p.act({ fault: { id: 'external', trigger: 'now' } });
    await answers();
    await p.act({ fault: { id: 'external', trigger: null } });
    return;
  }
  const device = present(panel.find((d) => d.id === id));
  if (device.kind === 'push') return p.pressUntil(device.id, answers);
  await p.act({ panel: { [device.id]: 1 - device.value } });
  await answers();
  await p.act({ panel: { [device.id]: device.value } });
}

/** Works one contact until it is judged. A check that is broken off is begun again, as a person would: stopped, at rest, and worked once more. */
async function tryWire({ page, stack, tag, p }: Walk, terminal: string, judged: Locator): Promise<void> {
  const asked = page.getByText(new RegExp(`^${terminal}: `));
  const atRest = page.getByTestId('wire-at-rest');
  for (;;) {
    if ((await outputHertz(stack, unitOf[tag])) !== 0) await p.pressUntil('halt', () => expect.poll(() => outputHertz(stack, unitOf[tag])).toBe(0));
    await expect(asked.or(atRest).first()).toBeVisible();
    if ((await atRest.count()) > 0) {
      await atRest.tap();
      await expect(atRest).toHaveCount(0);
      continue;
    }
    await workContact(page, p, terminal);
    if (await seenBefore(page, judged)) return;
  }
}

async function tryWires(walk: Walk, terminals: readonly string[]): Promise<void> {
  const { page } = walk;
  await page.getByTestId('try-wires').tap();
  await expect(page.getByText(/all inputs stand as they should/)).toBeVisible();
  for (const [i, terminal] of terminals.entries()) await tryWire(walk, terminal, page.getByText(`${i + 1} of ${terminals.length} tried`));
}

/** One machine under the hands of a walk. */
interface Walk {
  page: Page;
  stack: Stack;
  tag: 'C-07';
  p: ReturnType<typeof plant>;
}

/** A way to wire it, taken in one tap and written. */
async function wireItAnew({ page, stack, tag, p }: Walk): Promise<void> {
  await test.step('a way to wire it that has one button more: taken in one tap, what is left out is told', async () => {
    await page.goto(`${stack.url}/m/${tag}/command`);
    await expect(page.getByText('The start button at D1 starts it; preset 3 of 45 Hz sets its speed.', { exact: false })).toBeVisible();
    await page.getByTestId('fold-ways').tap();
    await page
      .getByRole('radio', {
        name: 'Buttons forward, reverse and stop, three preset speeds',
      })
      .tap();
    await expect(page.getByText(/Reset button: no input is left for it\. Instead: reset at the keypad/)).toBeVisible();
    await page.getByTestId('take-way').tap();
    await expect(page.getByText('The draft stands like this already.')).toBeVisible();
    await page.getByTestId('go-write').tap();
    await holdAct(page, 'write');
    await expect(page.getByText(/kept through power-off/)).toBeVisible();
    await p.act({ wires: { act: 'build anew' } });
  });
}

/** Two wires changed over, found and put right; then every wire is proved. */
async function findAndProveWires(walk: Walk): Promise<void> {
  const { page, stack, tag, p } = walk;
  await test.step('two wires changed over are found, put right, and every wire is proved; nothing turns by it', async () => {
    await p.act({
      wires: { act: 'strike', fault: { kind: 'swap', a: 'D1', b: 'D3' } },
    });
    await page.goto(`${stack.url}/m/${tag}/terminals`);
    await tryWires(walk, ['D1', 'D2', 'D3', 'D4', 'D5', 'D6']);
    await expect(page.getByTestId('wire-D1')).toContainText('Start button answers at D3 instead of D1');
    await p.act({ wires: { act: 'put right' } });
    for (const terminal of ['D1', 'D3']) {
      await page.getByTestId(`wire-${terminal}`).tap();
      await tryWire(walk, terminal, page.getByTestId(`wire-${terminal}`).getByText(`${terminal} answers`));
    }
    expect(await outputHertz(stack, unitOf[tag])).toBe(0);
    await page.getByTestId('wire-proof').tap();
    await expect(page.getByText(/Every wire answered: Ines Calder/)).toBeVisible();
  });
}

/** The trip of the chain is reset and command is seen to be back. */
async function commandBack({ page, stack, tag }: Walk): Promise<void> {
  await test.step('the trip of the chain that was opened is reset, and command is seen to be back', async () => {
    await expect(page.getByTestId('state-word')).toHaveText('Tripped');
    await page.getByText('See why, and reset').tap();
    await holdAct(page, 'reset-trip');
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
    await page.goto(`${stack.url}/m/${tag}/command`);
    await page.getByTestId('given-back').tap();
    await expect(page.getByText('Given back: seen by Ines Calder')).toBeVisible();
  });
}

/** Every preset by its real switches. */
async function measurePresets({ page, stack, tag, p }: Walk): Promise<void> {
  await test.step('each preset by its real switches, measured', async () => {
    await page.goto(`${stack.url}/m/${tag}/presets`);
    await page.getByTestId('unit-m/min').tap();
    // 1.1 m/s at 50 Hz: 15 Hz are 19.8 m/min
    await expect(page.getByTestId('preset-1')).toContainText('19.8');
    await p.act({ panel: { bit0: 1, bit1: 0 } });
    await p.pressUntil('start', () => expect(page.getByTestId('state-word')).toHaveText('Running'));
    for (const [n, bit0, bit1] of [
      [1, 1, 0],
      [2, 0, 1],
      [3, 1, 1],
    ] as const) {
      await p.act({ panel: { bit0, bit1 } });
      await expect(page.getByTestId(`preset-${n}`)).toContainText(/measured \d/);
    }
    await page.getByTestId('keep-presets').tap();
    await expect(page.getByTestId('keep-presets')).toHaveCount(0);
    await p.pressUntil('halt', () => expect(page.getByTestId('state-word')).not.toHaveText('Running'));
    await stands(stack, unitOf[tag]);
    await page.goto(`${stack.url}/m/${tag}`);
    for (const [stage, text] of [
      ['terminals', 'every wire answered'],
      ['presets', '3 measured'],
      ['command', 'command is with the machine'],
    ] as const)
      await expect(page.getByTestId(`stage-${stage}`)).toContainText(text);
  });
}

/** Backward by its button. */
async function backward({ page, stack, tag, p }: Walk): Promise<void> {
  await test.step('backward by its button', async () => {
    await page.goto(`${stack.url}/m/${tag}/command`);
    await p.pressUntil('back', () => expect(page.getByText(/The start button at D3 starts it.*It runs\./)).toBeVisible());
    await expect.poll(() => outputHertz(stack, unitOf[tag])).toBeLessThan(-44);
    await p.pressUntil('halt', () => expect(page.getByTestId('state-word')).not.toHaveText('Running'));
    await stands(stack, unitOf[tag]);
  });
}

test('C-07: three presets, reverse and three-wire buttons, wires tried one by one, every preset measured, command given back', async ({
  page,
  stack,
}) => {
  const walk: Walk = {
    page,
    stack,
    tag: 'C-07',
    p: plant(page, stack, 'C-07'),
  };
  await as(page, 'Ines Calder');
  await wireItAnew(walk);
  await findAndProveWires(walk);
  await commandBack(walk);
  await measurePresets(walk);
  await backward(walk);
});

test('P-11: hand-off-auto tried on the screen, seen at the selector, command given back', async ({ page, stack }) => {
  const tag = 'P-11';
  const p = plant(page, stack, tag);
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/${tag}/hand-off-auto`);

  await test.step('on the screen nothing moves', async () => {
    await page.getByTestId('try-hand').tap();
    await expect(page.getByText('From off to hand: it starts, at 25 Hz; the signal at A2 sets the speed.')).toBeVisible();
    expect(await outputHertz(stack, unitOf[tag])).toBe(0);
  });

  await test.step('each position of the real selector is seen, what holds it back is told', async () => {
    // a ramp it stops by without a trip, from whatever speed it has come to
    await page.goto(`${stack.url}/m/${tag}/motion`);
    await setFigure(page, '3b', '10');
    // the draft differs from the drive: what counts is in the drive
    await page.goto(`${stack.url}/m/${tag}/write`);
    await holdAct(page, 'write');
    await page.goto(`${stack.url}/m/${tag}/hand-off-auto`);
    await expect(page.getByTestId('position-off')).toContainText('stood still');
    await expect(page.getByTestId('permissive-selector-off')).toContainText('Holds it back');
    await p.act({ panel: { mode: 0 } });
    await expect(page.getByTestId('position-hand')).toContainText('ran at');
    await p.act({ panel: { mode: 1 } });
    await stands(stack, unitOf[tag]);
    await p.act({ panel: { mode: 2 } });
    await expect(page.getByTestId('position-auto')).toContainText('ran at');
    await page.getByTestId('keep-selector').tap();
    await expect(page.getByText(/Every position seen: Ines Calder/)).toBeVisible();
    await p.act({ panel: { mode: 1 } });
    await stands(stack, unitOf[tag]);
  });

  await test.step('command is with the machine, and is counted', async () => {
    await page.goto(`${stack.url}/m/${tag}/command`);
    await page.getByTestId('given-back').tap();
    await expect(page.getByText('Given back: seen by Ines Calder')).toBeVisible();
  });
});
