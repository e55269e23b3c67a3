/** The workbench in other languages: chosen by the browser or by the person, through the whole job, and laid out as well as in English. */
import { readFileSync } from 'node:fs';
import { laidOut } from './layout.js';
import { anew, expect, type Page, test } from './test.js';

const LANGUAGES = ['de', 'fr', 'es'] as const;
type Language = (typeof LANGUAGES)[number];
/** How a language says something: as its catalogue has it, with values in place of their names. */
function sayer(language: Language): (english: string, values?: Record<string, string | number>) => string {
  const words = JSON.parse(readFileSync(new URL(`../apps/web/src/words/${language}.json`, import.meta.url), 'utf8')) as Record<string, string>;
  return (english, values = {}) => (words[english] ?? `no words for ${english}`).replace(/\{(\w+)\}/g, (whole, name: string) => String(values[name] ?? whole));
}
const DRAFT =
  '1. Wofür wird Salz gebraucht?\na) zum Süßen\nb) zum Würzen *\nc) zum Färben\n\n2. Brot wird gebacken.\nRichtig oder falsch?\nAntwort: richtig\n\n3. Wie viele Eier hat ein Dutzend?\nAntwort: 12';

/** What sets of the demo have in their words. */
const OWN = new Set(['Starters and proofing', 'By hand', 'At work']);

/** Every text on the screen that English would say and this language says otherwise. */
async function leftInEnglish(page: Page, language: Language): Promise<string[]> {
  const words = JSON.parse(readFileSync(new URL(`../apps/web/src/words/${language}.json`, import.meta.url), 'utf8')) as Record<string, string>;
  const english = Object.entries(words).flatMap(([en, said]) => (en !== said && / /.test(en.trim()) && !en.includes('{') && !OWN.has(en) ? [en.trim()] : []));
  return page.evaluate((texts) => {
    const known = new Set(texts);
    const out = new Set<string>();
    const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let n = walk.nextNode(); n; n = walk.nextNode()) if (known.has(n.nodeValue?.trim() ?? '')) out.add(n.nodeValue?.trim() ?? '');
    for (const e of document.querySelectorAll('[title], [aria-label], [placeholder]'))
      for (const a of ['title', 'aria-label', 'placeholder']) if (known.has(e.getAttribute(a)?.trim() ?? '')) out.add(`${a} ${e.getAttribute(a)}`);
    return [...out];
  }, english);
}

anew.describe('a German browser', () => {
  anew.use({ locale: 'de-DE' });
  anew('the whole job, from signing in to a published quiz', async ({ page }) => {
    const t = sayer('de');
    await page.goto('/');
    await expect(page.locator('html')).toHaveAttribute('lang', 'de');
    await page.getByRole('button', { name: t('Sign in with the demo account') }).click();
    await expect(page.getByRole('heading', { name: t('Sets') })).toBeVisible();
    await page.getByRole('button', { name: t('New set') }).click();
    await page.getByLabel(t('Title')).fill('Deutsche Küche');
    await page.getByRole('button', { name: t('Start the set') }).click();
    await expect(page.getByRole('textbox', { name: t('Draft') })).toBeVisible();
    await page.evaluate((text) => navigator.clipboard.writeText(text), DRAFT);
    await page.getByRole('textbox', { name: t('Draft') }).click();
    await page.keyboard.press('Control+v');
    await expect(page.getByText('3 Fragen gelesen')).toBeVisible();
    expect(await leftInEnglish(page, 'de')).toEqual([]);
    await page.getByRole('button', { name: '3 Aufgaben in Prüfen übernehmen' }).click();
    await expect(page.getByRole('article')).toHaveCount(3);
    await expect(page.getByRole('button', { name: 'Aufgabe 1: Lösung B, nicht geprüft' })).toBeVisible();
    for (let i = 0; i < 3; i++) await page.keyboard.press('c');
    await expect(page.getByText('3 geprüft · 0 noch nicht')).toBeVisible();
    expect(await leftInEnglish(page, 'de')).toEqual([]);
    // through the palette, where stages are gone to by their names
    for (const [stage, heading] of [
      ['Arrange', 'Items in order'],
      ['Results', 'No results yet'],
      ['Deliver', 'Own quiz'],
    ] as const) {
      await page.keyboard.press('Control+k');
      await page.keyboard.type(t('Go to {name}', { name: t(stage) }));
      await page.keyboard.press('Enter');
      await expect(page).toHaveURL(new RegExp(`/${stage.toLowerCase()}$`));
      await expect(page.getByRole(stage === 'Arrange' ? 'list' : 'heading', { name: t(heading) }).first()).toBeVisible();
      expect(await leftInEnglish(page, 'de')).toEqual([]);
    }
    await page.getByRole('button', { name: '3 Aufgaben veröffentlichen' }).click();
    await expect(page.getByText(t('Entry code')).first()).toBeVisible();
  });
});

test('a language is chosen in the menu, holds after a reload, and is left again', async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('Language of the pages').selectOption('fr');
  const t = sayer('fr');
  await expect(page.locator('html')).toHaveAttribute('lang', 'fr');
  await page.getByRole('button', { name: t('Sign in with the demo account') }).click();
  await expect(page.getByRole('heading', { name: t('Sets') })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('heading', { name: t('Sets') })).toBeVisible();
  await page.getByRole('button', { name: 'M. Okafor' }).click();
  await expect(page.getByRole('menuitemradio', { name: 'Français' })).toBeChecked();
  await page.getByRole('menuitemradio', { name: 'English' }).click();
  await expect(page.getByRole('heading', { name: 'Sets' })).toBeVisible();
});

test('its longer words find room, from a small phone to a large desk', async ({ page }) => {
  test.setTimeout(600_000);
  // one of them in a run
  const language = LANGUAGES[Math.floor(Math.random() * LANGUAGES.length)] ?? 'de';
  await page.addInitScript((l) => localStorage.setItem('zakuska language', l), language);
  const demo: unknown = await (await page.request.get('/api/v1/session/demo')).json();
  expect((await page.request.post('/api/v1/session', { data: demo })).ok()).toBe(true);
  const t = sayer(language);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: t('Sets') })).toBeVisible();
  const faults = await laidOut(page, `${language}, sets`);
  const sourdough = (await page.getByRole('link', { name: 'Sourdough, week two' }).getAttribute('href'))?.replace(/\/\w+$/, '') ?? '';
  for (const stage of ['draft', 'check', 'arrange', 'deliver', 'results', 'text']) {
    await page.goto(`${sourdough}/${stage}`);
    await expect(page.getByRole('main')).toBeVisible();
    await page.waitForLoadState('networkidle');
    faults.push(...(await laidOut(page, `${language}, ${stage}`)));
    faults.push(...(await leftInEnglish(page, language)).map((e) => `${language}, ${stage}: “${e}” is English`));
  }
  for (const path of ['/bank', '/administration', '/account', '/people', '/assistant']) {
    await page.goto(path);
    await expect(page.getByRole('main')).toBeVisible();
    await page.waitForLoadState('networkidle');
    faults.push(...(await laidOut(page, `${language}, ${path}`)));
    faults.push(...(await leftInEnglish(page, language)).map((e) => `${language}, ${path}: “${e}” is English`));
  }
  expect(faults).toEqual([]);
});
