import { as, expect, holdUntilTurning, outputHertz, stands, test, typeOnPad } from './stack';

test('a machine put on record, left half-way, taken up again, described, tried on the bench and turned', async ({ page, stack }) => {
  const unit = 50;
  await as(page, 'Ines Calder');
  const figure = async (id: string, text: string) => {
    await page.getByTestId(id).tap();
    await typeOnPad(page, text);
    await page.getByTestId('entry-set').tap();
  };

  await test.step('what was typed outlives a reload', async () => {
    await page.goto(stack.url);
    await page.getByTestId('new-machine').tap();
    await page.getByTestId('new-tag').fill('m-60');
    await page.getByTestId('new-name').fill('Rinse tank stirrer');
    await page.getByRole('radio', { name: 'Bagging' }).tap();
    await page.getByTestId('new-agitator').tap();
    await figure('new-power', '4');
    await page.reload();
    await expect(page.getByText(/Still missing: voltage, full-load current/)).toBeVisible();
    for (const [id, text] of [
      ['new-voltage', '400'],
      ['new-current', '7.9'],
      ['new-frequency', '50'],
      ['new-speed', '1450'],
    ] as const)
      await figure(id, text);
    await page.getByTestId('new-delta').tap();
    await page.getByTestId('new-osier-g').tap();
    await page.getByRole('radio', { name: /^G4 / }).tap();
  });

  await test.step('an address that is taken is refused by name, and nothing is lost', async () => {
    await figure('new-unit', '1');
    await page.getByTestId('new-add').tap();
    await expect(page.getByText('Modbus address 1 belongs to the drive of P-11.', { exact: false })).toBeVisible();
    await figure('new-unit', String(unit));
    await page.getByTestId('new-add').tap();
    await expect(page).toHaveURL(/\/m\/M-60\/survey$/);
    await expect(page.getByTestId('state-word')).toHaveText('No link');
  });

  await test.step('what it drives is an estimate until it is taken down', async () => {
    await expect(page.getByText(/Nobody has read the machine’s own plate yet/)).toBeVisible();
    await figure('driven-torqueShare', '55');
    await expect(page.getByText(/Nobody has read the machine’s own plate yet/)).toHaveCount(0);
    await expect
      .poll(
        async () =>
          (
            await stack.query<{ survey: { driven: object } }>(
              "select survey from survey_revisions s join machines m on m.id = s.machine_id where m.tag = 'M-60' order by revision desc limit 1",
            )
          )[0]?.survey.driven,
      )
      .toMatchObject({ kind: 'agitator', torqueShare: 55 });
  });

  await test.step('the bench builds it, and still has it after it was stopped', async () => {
    await page.goto(`${stack.url}/m/M-60/bench`);
    await page.getByTestId('put-on-bench').tap();
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
    await stack.bench.stop();
    await expect(page.getByTestId('state-word')).toHaveText('No link');
    await stack.startBench();
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
    await page.getByTestId('build-anew').tap();
    await expect(page.getByText(/taken away, turning or not, and built again: Osier G G4 fresh from its box at address 50/)).toBeVisible();
  });

  await test.step('it turns while it is held, and stands when it is let go', async () => {
    await page.goto(`${stack.url}/m/M-60/direction`);
    await page.getByTestId('clear').tap();
    await holdUntilTurning(page, stack, unit, 2);
    await page.mouse.up();
    await stands(stack, unit);
    expect(await outputHertz(stack, unit)).toBe(0);
  });
});
