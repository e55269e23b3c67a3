/** What somebody of a class is written: their link and their code, in the language of the quiz. */

/** Somebody who is invited. */
export interface Invitation {
  name: string;
  /** Of the quiz. */
  title: string;
  link: string;
  code: string;
}
/** A mail of plain words. */
export interface Letter {
  subject: string;
  text: string;
}

/** Lines of a letter. `{name}`, `{title}`, `{code}` stand for what is put in. */
interface Words {
  hello: string;
  link: string;
  code: string;
}
const LETTERS: Readonly<Record<string, Words>> = {
  en: { hello: 'Hello {name},', link: 'here is your link to “{title}”:', code: 'If it asks for a code, type {code}. The link and the code are yours alone.' },
  de: {
    hello: 'Hallo {name},',
    link: 'hier ist dein Link zu „{title}“:',
    code: 'Wenn nach einem Code gefragt wird, tippe {code}. Link und Code gehören nur dir.',
  },
  fr: {
    hello: 'Bonjour {name},',
    link: 'voici ton lien vers « {title} » :',
    code: 'Si un code est demandé, tape {code}. Ce lien et ce code ne sont que pour toi.',
  },
  es: {
    hello: 'Hola, {name}:',
    link: 'este es tu enlace a «{title}»:',
    code: 'Si te pide un código, escribe {code}. El enlace y el código son solo para ti.',
  },
  it: {
    hello: 'Ciao {name},',
    link: 'ecco il tuo link a «{title}»:',
    code: 'Se ti viene chiesto un codice, scrivi {code}. Il link e il codice sono solo tuoi.',
  },
  pt: {
    hello: 'Olá, {name},',
    link: 'aqui está o teu link para «{title}»:',
    code: 'Se for pedido um código, escreve {code}. O link e o código são só teus.',
  },
  nl: {
    hello: 'Hallo {name},',
    link: 'hier is je link naar “{title}”:',
    code: 'Als er om een code wordt gevraagd, typ dan {code}. De link en de code zijn alleen voor jou.',
  },
  pl: {
    hello: 'Cześć, {name},',
    link: 'oto Twój link do „{title}”:',
    code: 'Jeśli pojawi się pytanie o kod, wpisz {code}. Link i kod są tylko dla Ciebie.',
  },
  ru: {
    hello: 'Здравствуйте, {name}!',
    link: 'Вот ваша ссылка на «{title}»:',
    code: 'Если потребуется код, введите {code}. Ссылка и код — только для вас.',
  },
  uk: {
    hello: 'Вітаємо, {name}!',
    link: 'Ось ваше посилання на «{title}»:',
    code: 'Якщо буде потрібен код, введіть {code}. Посилання та код — лише для вас.',
  },
  tr: {
    hello: 'Merhaba {name},',
    link: '“{title}” için bağlantın:',
    code: 'Bir kod sorulursa {code} yaz. Bağlantı ve kod yalnızca senindir.',
  },
};
/** Languages that letters are written in (two letters). */
export const letterLanguages: readonly string[] = Object.keys(LETTERS);

/** One line, as subjects and names are: what breaks lines becomes a blank. */
const oneLine = (s: string): string => s.replace(/[\s\p{Cc}]+/gu, ' ').trim();

/** The letter to somebody. @param language BCP 47; English where it is not known */
export function invitationLetter(to: Invitation, language = 'en'): Letter {
  const tag = language.slice(0, 2).toLowerCase();
  const words = (Object.hasOwn(LETTERS, tag) && LETTERS[tag]) || (LETTERS['en'] as Words);
  const put: Readonly<Record<string, string>> = { name: oneLine(to.name), title: oneLine(to.title), code: to.code };
  const filled = (line: string): string => line.replace(/\{(\w+)\}/g, (_, name: string) => put[name] ?? '');
  return { subject: put['title'] ?? '', text: `${filled(words.hello)}\n\n${filled(words.link)}\n${to.link}\n\n${filled(words.code)}\n` };
}
