import { byPerson } from './byPerson.js';

const ask = (person: string, tokensIn: number, cost: number, currency = 'EUR', account: string | undefined = person) => ({
  person,
  ...(account !== undefined && { account }),
  tokensIn,
  tokensOut: 10,
  cost,
  currency,
});

test('each person once, who used most first; costs by currency, as it was then; a new name is the same person', () => {
  expect(byPerson([ask('Ada', 100, 1), ask('Otto', 500, 2), ask('Ada B.', 50, 3, 'GBP', 'Ada'), ask('Ada', 1, 4)])).toEqual([
    { person: 'Otto', asks: 1, tokensIn: 500, tokensOut: 10, costs: [{ currency: 'EUR', cost: 2 }] },
    {
      person: 'Ada',
      asks: 3,
      tokensIn: 151,
      tokensOut: 30,
      costs: [
        { currency: 'EUR', cost: 5 },
        { currency: 'GBP', cost: 3 },
      ],
    },
  ]);
  expect(byPerson([])).toEqual([]);
});
