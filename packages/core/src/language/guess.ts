/** The language of a text, by its commonest small words. Words from memory; common practice, no source. */

const WORDS: Readonly<Record<string, string>> = {
  en: 'the of and to in is are that it for with on as which what how was by from or does do not this an be',
  es: 'el la los las de que y en un una se por con para es son qué cuál cómo del al lo más no su cuántos',
  fr: 'le la les de des et en un une est sont que qui dans pour avec sur quel quelle au aux du ne pas ce on',
  de: 'der die das und ist sind ein eine in den dem zu mit für von auf welche welcher was wie nicht wird bei im des',
  it: 'il lo la i gli le di che e un una è sono per con in del della dei quale come non si nel al più',
  pt: 'o a os as de que e um uma é são em no na do da para com qual como não se por mais dos das',
  nl: 'de het een van en is zijn in op te dat voor met welke wat hoe niet aan bij door wordt',
  pl: 'w z i na do nie jest się to że co jak który która są od po za przez dla ile',
  sv: 'och att det som en ett är på av för med den till vad vilken inte hur om har',
  da: 'og at det som en et er på af for med den til hvad hvilken ikke hvor om har',
  fi: 'ja on ei se että mikä mitä kuka kun ovat joka tai kuin mitkä oli',
  tr: 've bir bu için ile hangi nedir ne kaç da de olarak en çok değil olan',
  ro: 'și de la în un o este sunt care ce cu pe din nu pentru cum cât',
  cs: 'a v se na je že co jak který která jsou do z s pro ne od',
  hu: 'a az és egy hogy nem mi melyik van mit ki hány is meg',
};
const SCRIPTS = [
  ['ru', /[ыэёъ]/u],
  ['uk', /[іїєґ]/u],
] as const;

/** The language that most of the small words of a text are of (BCP 47), where there are enough of them and no other has as many. */
export function guessLanguage(text: string): string | undefined {
  const words = text.toLowerCase().match(/[\p{L}\p{M}]+/gu) ?? [];
  const cyrillic = words.filter((w) => /\p{Script=Cyrillic}/u.test(w)).length;
  if (words.length > 3 && cyrillic > words.length * 0.5) return SCRIPTS.find(([, re]) => re.test(text))?.[0];
  const count = Object.entries(WORDS).map(([code, list]) => {
    const known = new Set(list.split(' '));
    return [code, words.filter((w) => known.has(w)).length] as const;
  });
  const [first, second] = count.sort((a, b) => b[1] - a[1]);
  const [most, next] = [first?.[1] ?? 0, second?.[1] ?? 0];
  // of a short text a word or two that no other language has will do
  const enough = (most >= Math.max(3, words.length * 0.08) && most > next * 1.25) || (words.length < 15 && most > next * 2);
  return first && most > 0 && enough ? first[0] : undefined;
}

/** Share of the words of a text that are small words of a language; null where the language is not known here or the text has few words. */
export function smallWords(text: string, code: string): number | null {
  const words = text.toLowerCase().match(/[\p{L}\p{M}]+/gu) ?? [];
  const list = WORDS[code]?.split(' ');
  return list && words.length >= 15 ? words.filter((w) => list.includes(w)).length / words.length : null;
}
