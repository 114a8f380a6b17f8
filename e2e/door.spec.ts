import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { dirname, join } from 'node:path';
import type { Browser, Locator, Page } from '@playwright/test';
import readQr from 'jsqr';
import sharp from 'sharp';
import { expectAccessible } from './access';
import type { OwnServer } from './server';
import { expect, test } from './test';

const PASSCODE = 'seven calm otters';

/** Sets the passcode as `npm run passcode` does. */
async function setPasscode({ database }: OwnServer): Promise<void> {
  const file = join(dirname(process.env['PACE_E2E_SERVER']!), 'administer.mjs');
  const child = spawn(process.execPath, [file, 'set-passcode'], {
    env: { ...process.env, DATABASE_URL: database },
    stdio: ['pipe', 'ignore', 'inherit'],
  });
  child.stdin.end(`${PASSCODE}\n`);
  expect(await once(child, 'exit')).toEqual([0, null]);
}

/** What a phone's camera makes of it. */
async function scan(picture: Locator): Promise<string> {
  const { data, info } = await sharp(await picture.screenshot())
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return readQr(new Uint8ClampedArray(data), info.width, info.height)?.data ?? 'no code there';
}

async function newPage(
  browser: Browser,
  baseURL: string,
  viewport = { width: 390, height: 844 },
): Promise<Page> {
  return (await browser.newContext({ baseURL, viewport })).newPage();
}

async function comeIn(page: Page): Promise<void> {
  await page.getByLabel('Passcode').fill(PASSCODE);
  await page.getByLabel(/^Device name/).fill('the laptop');
  await page.getByRole('button', { name: 'Sign in' }).click();
}

test.describe('a server that others in the network reach', () => {
  test.beforeEach(async ({ server }) => {
    await server.stop();
    await setPasscode(server);
    await server.start({ HOST: '0.0.0.0' });
  });

  test('asks for its passcode once, and leads where one wanted to go', async ({ browser, server }) => {
    const page = await newPage(browser, server.address);
    await page.goto('/cards');
    await expectAccessible(page);
    await page.getByLabel('Passcode').fill('seven calm badgers');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('alert')).toContainText('Wrong passcode');
    await expectAccessible(page);
    await comeIn(page);
    await expect(page.getByRole('link', { name: /^Small against large/ })).toBeVisible();
    expect(new URL(page.url()).pathname).toBe('/cards');
    // a browser that has forgotten it is asked anew, where it is
    await page.context().clearCookies();
    await page.getByRole('link', { name: 'Kit' }).first().click();
    await expect(page.getByLabel('Passcode')).toBeVisible();
    await page.context().close();
  });

  test('lets a phone in by a code that it scans, as a helper who deletes nothing, and puts it out', async ({
    browser,
    server,
  }) => {
    const laptop = await newPage(browser, server.address, { width: 1280, height: 800 });
    await laptop.goto('/settings');
    await comeIn(laptop);
    const form = laptop.getByRole('form', { name: 'Add device' });
    await form.getByRole('button', { name: 'Show code' }).click();
    await expect(form.getByText('enter a name')).toBeVisible();
    await form.getByLabel('Name of the person or device').fill('phone on the bench');
    await expect(form.getByRole('radio', { name: 'assistant' })).toBeChecked();
    await form.getByRole('button', { name: 'Show code' }).click();
    const shown = laptop.getByRole('group', { name: 'Code for phone on the bench' });
    await expect(shown.getByText(/Expires in [12]:\d\d\.$/)).toBeVisible();
    await expectAccessible(laptop);
    const address = await scan(shown.getByRole('img', { name: 'QR code to sign in phone on the bench' }));
    expect(address).toMatch(/^http:\/\/[\d.]+:\d+\/join\?token=[\w-]{43}$/);

    const phone = await newPage(browser, new URL(address).origin);
    await phone.goto(address);
    await expectAccessible(phone);
    await phone.getByRole('button', { name: 'Sign in on this device' }).click();
    await expect(phone.getByText(/^You are signed in as an assistant/)).toBeVisible();
    await expect(laptop.getByText('“phone on the bench” signed in.')).toBeVisible();
    const run = phone.getByRole('link', { name: /Velm 5/ }).first();
    await run.click();
    await expect(phone.getByRole('button', { name: 'Edit run' })).toBeVisible();
    await expect(phone.getByRole('button', { name: 'Delete' })).toHaveCount(0);
    const refused = await phone.evaluate(async (id) => {
      const answer = await fetch(`/api/runs/${id}`, { method: 'DELETE' });
      return [answer.status, ((await answer.json()) as { code: string }).code];
    }, new URL(phone.url()).pathname.split('/')[2]);
    expect(refused).toEqual([403, 'not-for-this-role']);

    // the code lets nobody else in
    const other = await newPage(browser, server.address);
    await other.goto(`/join?token=${new URL(address).searchParams.get('token')}`);
    await other.getByRole('button', { name: 'Sign in on this device' }).click();
    await expect(other.getByRole('alert')).toContainText('it was used');
    await expectAccessible(other);

    await laptop.getByRole('button', { name: 'Sign out phone on the bench' }).click();
    await expect(laptop.getByRole('button', { name: 'Sign out phone on the bench' })).toHaveCount(0);
    await phone.getByRole('link', { name: 'Plan' }).first().click();
    await expect(phone.getByLabel('Passcode')).toBeVisible();
    // whoever goes out is asked again
    await laptop.getByRole('button', { name: 'Sign out' }).click();
    await expect(laptop.getByLabel('Passcode')).toBeVisible();
    for (const page of [laptop, phone, other]) await page.context().close();
  });

  test('lets a reader in, who finds all there is to read and nothing to change', async ({
    browser,
    server,
  }) => {
    const laptop = await newPage(browser, server.address);
    await laptop.goto('/settings');
    await comeIn(laptop);
    const form = laptop.getByRole('form', { name: 'Add device' });
    await form.getByLabel('Name of the person or device').fill('an editor');
    await form.getByRole('radio', { name: 'viewer', exact: true }).click();
    await form.getByRole('button', { name: 'Show code' }).click();
    const shown = laptop.getByRole('group', { name: 'Code for an editor' });
    const digits = /\d{3}\s?\d{3}/.exec(await shown.innerText())![0];

    const page = await newPage(browser, server.address);
    await page.goto('/join');
    await page.getByLabel(/six-digit/i).fill(digits);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByText(/^You are signed in as a viewer/)).toBeVisible();
    const main = page.getByRole('main');
    const changesOn = (screen: Page): Locator =>
      screen.getByRole('main').getByRole('button', {
        name: /^(add|change|check|delete|edit|enter|insert|leave|new|plan|publish|remove|rename|reset|save|start)\b/i,
      });
    const shows = async (screen: Page, address: string, what: string): Promise<void> => {
      await screen.goto(address);
      await expect(screen.getByRole('main').getByText(what).first()).toBeVisible();
    };
    // what has come with the page is there before anything is missed, and the reviewer has what the reader lacks
    const reads = async (address: string, what: string): Promise<void> => {
      await shows(laptop, address, what);
      await expect(changesOn(laptop)).not.toHaveCount(0);
      await shows(page, address, what);
      await expect(changesOn(page)).toHaveCount(0);
    };
    const ofLibrary = async (path: string): Promise<string> =>
      page.evaluate(async (address) => {
        const found = JSON.stringify(await (await fetch(`/api/${address}`)).json());
        return /"id":"([\w-]+)"/.exec(found)![1]!;
      }, path);
    await reads(`/runs/${await ofLibrary('runs')}`, 'Photos and screenshots');
    await expect(main.getByRole('img', { name: /: drag to move/ })).toHaveCount(0);
    await reads(`/reviews/${await ofLibrary('reviews')}`, 'From one shore to the other');
    await expect(main.getByRole('textbox')).toHaveCount(0);
    await expectAccessible(page);
    await reads(`/cards/${await ofLibrary('cards')}`, 'planned start; ends');
    await reads(`/ladders/${await ofLibrary('ladders')}`, 'Tests');
    await reads(`/choices/${await ofLibrary('choices')}`, 'Tests');
    await reads(`/compare/${await ofLibrary('comparisons')}`, 'Runs of each side');
    await reads('/outcomes', 'Copper Lines');
    await reads('/cards', 'Night Ferry');
    await reads('/settings', 'fast reaction: shooters');
    await expect(main.getByRole('spinbutton').or(main.getByRole('textbox'))).toHaveCount(0);
    await page.goto('/kit');
    await page.getByRole('link', { name: /^Velm 5/ }).click();
    await expect(main.getByRole('list', { name: 'Details' })).toContainText('Battery, mAh: 4700');
    await reads(new URL(page.url()).pathname, 'Skin spots');
    await expect(main.getByRole('textbox')).toHaveCount(0);
    await expectAccessible(page);
    for (const one of [laptop, page]) await one.context().close();
  });
});
