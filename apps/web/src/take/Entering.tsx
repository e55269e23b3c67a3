/** The way in: a code, then what the quiz is, who takes it and in which language. */
import { type FormEvent, useState } from 'react';
import { moment } from './clock.js';
import { Languages } from './Languages.js';
import { errorWords, server, type Welcome } from './server.js';
import { type Page, useSay } from './words/words.js';

export function Enter() {
  const say = useSay();
  const [code, setCode] = useState('');
  const [error, setError] = useState('');
  const submit = async (e: FormEvent): Promise<void> => {
    e.preventDefault();
    const clean = code.toUpperCase().replace(/[\s-]/g, '');
    try {
      await server.welcome(clean);
      location.assign(`/t/${encodeURIComponent(clean)}`);
    } catch (x) {
      setError(errorWords(x, say));
    }
  };
  return (
    <main className="page">
      <h1>{say('enterQuiz')}</h1>
      <form onSubmit={(e) => void submit(e)}>
        <label>
          {say('entryCode')}
          <input
            className="code"
            value={code}
            onChange={(e) => setCode(e.target.value)}
            autoComplete="off"
            autoCapitalize="characters"
            maxLength={12}
            required
          />
        </label>
        {error && (
          <p className="error" role="alert">
            {error}
          </p>
        )}
        <button className="primary" type="submit">
          {say('goOn')}
        </button>
      </form>
    </main>
  );
}

/** Who begins, and in which language. */
export interface Beginning {
  who: { name: string } | { member: string } | object;
  name: string;
  language: string;
}
interface Props {
  welcome: Welcome;
  page: Page;
  error: string;
  busy: boolean;
  begin: (b: Beginning) => void;
  /** The quiz will be shown in this language. */
  quizIn: (language: string | undefined) => void;
}
export function Start({ welcome, page, error, busy, begin, quizIn }: Props) {
  const say = useSay();
  const [name, setName] = useState('');
  const [member, setMember] = useState('');
  const [language, setLanguage] = useState('');
  const { learner, people, rules, phase } = welcome;
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    const picked = people?.find((p) => p.id === member);
    begin({ who: learner || rules.enter === 'nameless' ? {} : picked ? { member: picked.id } : { name }, name: picked?.name ?? name, language });
  };
  const seesNothing = Object.values(rules.shows).every((from) => from === 'never');
  const says = [
    `${say('questions', { n: welcome.items })}, ${say('points', { n: welcome.points })}.`,
    rules.practice ? say('markedAtOnce') : seesNothing ? say('teacherTells') : rules.shows.score === 'handed-in' ? say('scoreAtOnce') : '',
    rules.minutes !== undefined ? say('minutes', { n: rules.minutes }) : '',
    rules.attempts > 0 ? say('attempts', { n: rules.attempts }) : '',
    rules.itemSeconds === undefined ? '' : say('eachHasTime'),
    rules.back ? '' : say('noWayBack'),
    rules.late && phase !== 'closed'
      ? `${say('dueAt', { time: moment(rules.late.due, page.language) })} ${say(rules.late.per === 'day' ? 'lateDaily' : 'lateOnce', { percent: rules.late.percent })}`
      : '',
    rules.closesAt && phase !== 'closed' ? say('closesAt', { time: moment(rules.closesAt, page.language) }) : '',
  ];
  return (
    <main className="page">
      <h1 {...(welcome.language && { lang: welcome.language })}>{welcome.title}</h1>
      <p>{says.filter(Boolean).join(' ')}</p>
      {phase === 'open' ? (
        <form onSubmit={submit}>
          {learner ? (
            <p>
              {say('youAre', { name: learner.name })}{' '}
              {learner.underWay ? say('keptSoFar') : learner.handedIn > 0 && say('handedInBefore', { n: learner.handedIn })}
            </p>
          ) : people ? (
            <label>
              {say('chooseName')}
              <select value={member} onChange={(e) => setMember(e.target.value)} required>
                <option value="" />
                {people.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </select>
            </label>
          ) : (
            rules.enter !== 'nameless' && (
              <label>
                {say('yourName')}
                <input value={name} onChange={(e) => setName(e.target.value)} autoComplete="name" maxLength={100} required />
              </label>
            )
          )}
          {welcome.languages && (
            <Languages
              languages={welcome.languages}
              value={language || (welcome.languages[0] ?? '')}
              onChoose={(l) => {
                setLanguage(l === welcome.languages?.[0] ? '' : l);
                quizIn(l || welcome.language);
              }}
            />
          )}
          {error && (
            <p className="error" role="alert">
              {error}
            </p>
          )}
          <button className="primary" type="submit" disabled={busy}>
            {learner?.underWay ? say('goOn') : learner?.handedIn ? say('beginAgain') : say('begin')}
          </button>
        </form>
      ) : (
        <p className="error" role="status">
          {phase === 'before' ? `${say('notOpen')} ${rules.opensAt ? say('opensAt', { time: moment(rules.opensAt, page.language) }) : ''}` : say('closed')}
        </p>
      )}
    </main>
  );
}
