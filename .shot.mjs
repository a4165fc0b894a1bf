import { chromium } from 'playwright-core';
import { readFileSync } from 'node:fs';
const settings = JSON.parse(readFileSync('/work/main/.insel/settings.json'));
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-quic','--no-first-run','--disable-background-networking','--disable-component-update','--disable-sync'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const B = 'http://127.0.0.1:8420';
page.on('pageerror', (e) => console.log('PAGEERROR', e.message));
await page.goto(B); await page.getByLabel('Name').fill(process.env.WHO ?? 'planner'); await page.getByLabel('Password').fill(settings.demoPassword); await page.getByRole('button', { name: 'Sign in' }).click();
await page.getByRole('navigation', { name: 'Areas' }).waitFor();
const hosts = await page.evaluate(async () => (await (await fetch('/api/hosts?take=200')).json()).rows);
globalThis.id = (n) => hosts.find((h) => h.name === n).id;
for (const arg of process.argv.slice(2)) {
  const [path, file, action] = arg.split('::');
  await page.goto(B + path.replace(/\{(\w+)\}/g, (_, n) => id(n)));
  await page.waitForTimeout(1200);
  if (action) await eval(`(async () => { ${action} })()`);
  await page.waitForTimeout(400);
  await page.screenshot({ path: `/tmp/${file}.png`, animations: 'disabled' });
}
await browser.close();
