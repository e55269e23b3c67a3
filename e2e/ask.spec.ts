/** Draft help by copy and paste: a request becomes a draft; chosen items are reworked one by one; a second opinion finds a wrong key. */
import { expect, test } from './test.js';
import { copied, documentOf, newSet, signIn } from './people.js';

/** As assistants reply: talk around, other marks than asked for, a wrong key, one item fewer. */
const REPLY = `Absolutely! Here is your quiz on salt in bread 🧂

**1. What does salt do to yeast?**
A) It feeds it
B) It slows it down ✅
C) It kills it at once
Feedback: Salt draws water from the yeast cells.

**2. Salt makes dough tighter.**
Answer: True

**3. How much salt is usual for 500 g of flour?**
A) 1 g
B) 10 g
C) 50 g ✅

Let me know if you'd like me to adjust the difficulty!`;

test('topic, request, pasted reply with habits of its own: items; the request and its reply stay with the set', async ({ page }) => {
  await signIn(page);
  await page.getByRole('button', { name: 'New set' }).click();
  await page.getByLabel('Title').fill('Salt in bread');
  await page.getByRole('button', { name: 'Start the set' }).click();
  await page.getByRole('link', { name: 'with an assistant' }).click();
  await expect(page.getByRole('region', { name: 'The request', exact: true })).toBeVisible();
  // nothing goes out that says nothing
  await expect(page.getByRole('button', { name: 'Copy the request' })).toBeDisabled();
  await page.getByLabel('The topic').fill('Salt in bread');
  await page.getByLabel('How many: Multiple choice').fill('3');
  await page.getByLabel('How many: True or false').fill('1');
  await page.getByLabel('Options of each').fill('3');
  await page.getByLabel('For whom').fill('year 8');
  await page.getByLabel('What else to add').selectOption('hints');
  const outgoing = page.getByRole('region', { name: 'Text of the request' });
  await expect(outgoing).toContainText('3 multiple choice items with 3 options each');
  await expect(outgoing).toContainText('For: year 8');
  await expect(page.getByText(/characters, about [\d,]+ tokens/)).toBeVisible();
  await page.getByRole('button', { name: 'Copy the request' }).click();
  await expect(page.getByText('The request is copied.')).toBeVisible();
  expect(await copied(page)).toContain('on: Salt in bread');
  await page.getByLabel('The reply').fill(REPLY);
  await expect(page.getByText('3 read: multiple choice 2 of 3, true or false 1')).toBeVisible();
  await page.getByRole('button', { name: 'Put the reply into the draft' }).click();
  await expect(page.getByText('3 questions read')).toBeVisible();
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key B/ })).toBeVisible();
  // kept with the set, to be opened again
  await page.goto(page.url().replace(/\/check.*/, '/draft/request'));
  await page.getByText('Requests of this set (1)').click();
  await expect(page.getByText('with its reply')).toBeVisible();
  await expect(page.getByLabel('The topic')).toHaveValue('Salt in bread');
});

test('marked passages of a source go along, and nothing else of it; outcomes are proposed from them', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'Passages', '');
  const text =
    'Salt slows the yeast of a dough. Salt tightens the gluten of a dough.\n\nButter melts in the oven, and nobody minds.\n\nA biga is a stiff pre-ferment that is made of flour and water.';
  await page.evaluate(
    async ([set, body]) => {
      const csrf = ((await (await fetch('/api/v1/session')).json()) as { csrf: string }).csrf;
      await fetch(`/api/v1/sets/${set}/sources`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-csrf-token': csrf },
        body: body as string,
      });
    },
    [id, JSON.stringify({ name: 'Notes', mediaType: 'text/plain', text })],
  );
  await page.goto(`/sets/${id}/draft/request`);
  await page.getByLabel('From', { exact: true }).selectOption('Notes');
  await expect(page.getByText('All of “Notes” goes along.')).toBeVisible();
  await page.getByRole('button', { name: 'Choose passages' }).click();
  const source = page.getByLabel('Text of Notes');
  await expect(source).toHaveValue(text);
  const mark = (from: number, to: number) => source.evaluate((e: HTMLTextAreaElement, [a, b]) => e.setSelectionRange(a as number, b as number), [from, to]);
  await mark(0, text.indexOf('\n'));
  await page.getByRole('button', { name: 'Add what is marked' }).click();
  await mark(text.indexOf('A biga'), text.length);
  await page.getByRole('button', { name: 'Add what is marked' }).click();
  await page.getByRole('button', { name: 'Send 2 passages along' }).click();
  await expect(page.getByText('2 passages of “Notes” go along.')).toBeVisible();
  const request = page.getByRole('region', { name: 'Text of the request' });
  await expect(request).toContainText('A biga is a stiff pre-ferment');
  await expect(request).not.toContainText('Butter');
  await page.getByText('Outcomes, levels of thinking').click();
  await page.getByRole('button', { name: 'Propose outcomes from the source' }).click();
  await expect(page.getByLabel('Outcomes, one a line')).toHaveValue(/Explain what salt does, and why[^]*Explain what biga is/);
  await expect(request).toContainText('Explain what biga is');
});

const DRAFT = `1. What feeds the yeast in a starter?
a) salt
b) sugars from the flour *
c) butter

2. Salt speeds up fermentation.
Answer: false

3. How many grams are 2 kilograms?
Answer: 2000
`;
test('items put into Spanish: taken one by one by keyboard, one refused, a changed key never in passing; one step, undone', async ({ page }) => {
  await signIn(page);
  const id = await newSet(page, 'Starters again', DRAFT);
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key B/ })).toBeVisible();
  await page.keyboard.press('w');
  await page.getByLabel('What is to become of 3 items').selectOption('in another language');
  await page.getByRole('button', { name: 'Copy the request' }).click();
  await expect(page.getByText('The request is copied.')).toBeVisible();
  const request = await copied(page);
  expect(request).toContain('Put the items into Spanish');
  const signs = [...request.matchAll(/^\d\. \((\w+)\)/gm)].map((m) => m[1] ?? '');
  expect(signs.length).toBe(3);
  await page.getByLabel('The reply').fill(`¡Claro!

1. (${signs[0] ?? ''}) ¿Qué alimenta la levadura?
a) la sal
b) los azúcares de la harina *
c) la mantequilla

2. (${signs[1] ?? ''}) La sal acelera la fermentación.
Answer: false

3. (${signs[2] ?? ''}) ¿Cuántos gramos son 2 kilogramos?
Answer: 200
`);
  const proof = page.getByRole('region', { name: 'Proof' });
  await expect(proof.getByRole('article')).toHaveCount(3);
  await expect(proof.getByRole('heading', { name: 'Their key would change' })).toBeVisible();
  await expect(proof.getByRole('article').first()).toContainText('los azúcares de la harina');
  await page.getByRole('heading', { name: 'Rework' }).click();
  await page.keyboard.press('y');
  await expect(proof.getByText('1 taken, 2 open')).toBeVisible();
  await page.keyboard.press('n');
  // the key that changed is not taken by the same key
  await page.keyboard.press('y');
  await expect(proof.getByText('1 taken, 1 open')).toBeVisible();
  await proof.getByRole('button', { name: 'Put 1 item in place of the original' }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key B/ })).toBeVisible();
  const stems = async (): Promise<string[]> => (await documentOf(page, id)).set.items.map((i) => i.stem);
  await expect.poll(stems).toEqual(['¿Qué alimenta la levadura?', 'Salt speeds up fermentation.', 'How many grams are 2 kilograms?']);
  await page.keyboard.press('u');
  await expect.poll(stems).toEqual(['What feeds the yeast in a starter?', 'Salt speeds up fermentation.', 'How many grams are 2 kilograms?']);
});

test('a second opinion finds the planted wrong key, with its reason', async ({ page }) => {
  await signIn(page);
  await newSet(page, 'Opinions', DRAFT.replace('sugars from the flour *', 'sugars from the flour').replace('c) butter', 'c) butter *'));
  await page.getByRole('button', { name: 'Take 3 items to Check' }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key C/ })).toBeVisible();
  await page.keyboard.press('w');
  await page.getByLabel('What is to become of 3 items').selectOption('opinion');
  await page.getByRole('button', { name: 'Copy the request' }).click();
  await expect(page.getByText('The request is copied.')).toBeVisible();
  expect(await copied(page)).not.toContain('*');
  await page
    .getByLabel('The reply')
    .fill('1. B | Yeast lives on sugar, and flour holds it.\n2. false | Salt slows it down.\n3. 2000 | A kilogram has a thousand grams.');
  const opinion = page.getByRole('region', { name: 'Second opinion' });
  await expect(opinion.getByRole('status')).toHaveText('2 of 3 answers agree with the keys, 1 does not.');
  await expect(opinion.getByRole('article')).toHaveCount(1);
  await expect(opinion.getByText('Yeast lives on sugar')).toBeVisible();
  // after the page was closed it is still there
  await expect(page.getByText('Kept with the set.')).toBeVisible();
  await page.reload();
  await expect(opinion.getByText('Yeast lives on sugar')).toBeVisible();
  await opinion.getByRole('link', { name: 'Go to the item' }).click();
  await expect(page.getByRole('button', { name: /^Item 1: key C/ })).toBeVisible();
  // it stands among the findings until the key is put right
  const findings = page.getByRole('complementary', { name: 'Findings' });
  await expect(findings.getByText('A second opinion on the key C says “B”: Yeast lives on sugar, and flour holds it.')).toBeVisible();
  await page.keyboard.press('2');
  await expect(page.getByRole('button', { name: /^Item 1: key B/ })).toBeVisible();
  await expect(findings.getByText('A second opinion on the key')).toHaveCount(0);
});

const statements = (keys: string[]): string => keys.map((k, n) => `${n + 1}. Dough number ${n + 1} rises in a warm room.\nAnswer: ${k}`).join('\n\n');
test('three replies compared: the one-sided one is told; items picked from two stand in the draft; asked again with a word on what was wrong', async ({
  page,
}) => {
  await signIn(page);
  await page.getByRole('button', { name: 'New set' }).click();
  await page.getByLabel('Title').fill('Three drafts');
  await page.getByRole('button', { name: 'Start the set' }).click();
  await page.getByRole('link', { name: 'with an assistant' }).click();
  await page.getByLabel('The topic').fill('Dough');
  for (const reply of [
    statements(['true', 'true', 'true', 'true', 'true', 'true']),
    statements(['true', 'false', 'true', 'false', 'false', 'true']),
    `Here you go:\n\n1. What makes dough rise?\na) yeast *\nb) salt\nc) oil`,
  ]) {
    await page.getByLabel('The reply').fill(reply);
    await page.getByRole('button', { name: 'Keep it to compare' }).click();
    await expect(page.getByLabel('The reply')).toHaveValue('');
  }
  await page.getByRole('link', { name: 'Compare the 3 drafts that are kept' }).click();
  await expect(page.getByRole('columnheader')).toHaveCount(3);
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name}`) });
  await expect(row('True statements')).toContainText('6 of 6');
  await expect(row('True statements')).toContainText('3 of 6');
  await expect(row('Findings').getByRole('cell').first()).toContainText('6 of 6 statements are true');
  await expect(row('Findings').getByRole('cell').nth(1)).not.toContainText('statements are true');
  await page.getByLabel('Pick item 2 of draft 2').check();
  await page.getByLabel('Pick item 1 of draft 3').check();
  await page.getByLabel('What was wrong with draft 1').fill('All statements are true.');
  await page.getByRole('button', { name: 'Copy “again”' }).first().click();
  await expect(page.getByText('The request to write it again is copied.')).toBeVisible();
  expect(await copied(page)).toContain('What was wrong with it: All statements are true.');
  await page.getByRole('button', { name: 'Put the picked items into the draft' }).click();
  await expect(page.getByText('2 questions read')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Draft' })).toContainText('What makes dough rise?');
});

test('a strange draft is put into the notation: what changed a word or a key is told and not taken', async ({ page }) => {
  await signIn(page);
  const id = await newSet(
    page,
    'Strange',
    'Q one >> What feeds the yeast?\n   [salt]  [[sugars from the flour]]  [butter]\n\nQ two >> Salt speeds up fermentation ...... nope, false',
  );
  // who leaves within some milliseconds of a paste is faster than what keeps it
  await documentOf(page, id);
  await page.goto(page.url().replace(/\/draft.*/, '/draft/notation'));
  await page.getByRole('button', { name: 'Copy the request' }).click();
  expect(await copied(page)).toContain('[[sugars from the flour]]');
  const reply = '1. What feeds the yeast?\na) salt\nb) sugars from the flour *\nc) butter\n\n2. Salt speeds up fermentation a lot\nAnswer: false';
  await page.getByLabel('The reply').fill(reply);
  const compared = page.getByRole('region', { name: 'Compared with the draft' });
  await expect(compared.getByRole('status')).toHaveText('1 of 2 items say what the draft says, word for word and key for key.');
  await expect(compared.getByRole('article')).toContainText('Salt speeds up fermentation a lot');
  // another key is not taken either
  await page.getByLabel('The reply').fill(reply.replace(' *', '').replace('c) butter', 'c) butter *'));
  await expect(compared.getByRole('article', { name: /What feeds the yeast/ })).toContainText('The draft does not mark this key.');
  await page.getByLabel('The reply').fill(reply);
  await compared.getByRole('button', { name: 'Take what holds (1)' }).click();
  const text = page.getByRole('textbox', { name: 'Draft' });
  await expect(text).toContainText('B) sugars from the flour *');
  await expect(text).toContainText('nope, false');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(text).toContainText('[[sugars from the flour]]');
});
