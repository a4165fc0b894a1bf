/** What axe-core holds against a page by WCAG 2.2 AA. */
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';

type Options = Parameters<AxeBuilder['options']>[0];
type Results = Awaited<ReturnType<AxeBuilder['analyze']>>;
/** What it leaves in a page. */
type InPage = { axe: { run(where: Document, options: Options): Promise<Results> } };

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'];
/** The rules of these levels that look at colours. */
const OF_COLOURS = ['color-contrast', 'link-in-text-block'];
/** Nothing is worked out for what holds: that takes as long again. */
const ONLY_FAULTS: Options = { resultTypes: ['violations'] };

const lines = ({ violations }: Results, light: string): string[] =>
  violations.map(({ id, nodes }) => `${light}: ${id} ${nodes[0]?.html}`);

/** All rules, by day. */
export async function faultsOf(page: Page): Promise<string[]> {
  const axe = new AxeBuilder({ page })
    .setLegacyMode() // No frames here: a second page for the verdict would cost a second each time.
    .options(ONLY_FAULTS)
    .withTags(TAGS);
  return lines(await axe.analyze(), 'day');
}

/** The same page by night, of which nothing but its colours is another; asked after `faultsOf`, which leaves axe there. */
export async function faultsByNight(page: Page): Promise<string[]> {
  await page.evaluate(() => (document.documentElement.dataset.light = 'night'));
  const options: Options = { ...ONLY_FAULTS, runOnly: { type: 'rule', values: OF_COLOURS } };
  const found = await page.evaluate(
    (given) => (window as unknown as InPage).axe.run(document, given),
    options,
  );
  await page.evaluate(() => (document.documentElement.dataset.light = 'day'));
  return lines(found, 'night');
}
