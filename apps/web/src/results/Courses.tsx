/** A quiz inside courses: whose scores have arrived there, and who of the course has not handed in. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { copyText } from '../ui/copyText.js';
import { say } from '../words/say.js';

/** @param handedIn how many have: the scores of more are on their way then */
export function Courses({ delivery, handedIn, mayEdit }: { delivery: string; handedIn: number; mayEdit: boolean }) {
  const queries = useQueryClient();
  const path = { params: { path: { delivery } } };
  const courses = useQuery({
    queryKey: ['courses', delivery, handedIn],
    queryFn: () => call(api.GET('/api/v1/deliveries/{delivery}/courses', path)),
    placeholderData: (before) => before,
    refetchInterval: (q) => (q.state.data?.some((c) => c.waiting) ? 3000 : false),
  });
  const again = useMutation({
    mutationFn: () => call(api.POST('/api/v1/deliveries/{delivery}/courses/again', path)),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['courses', delivery] }),
    onError: (e) => toast.error(wordsOf(e)),
  });
  const members = useMutation({ mutationFn: () => call(api.POST('/api/v1/deliveries/{delivery}/members', path)) });
  if (!courses.data?.length) return null;
  const missing = members.data?.filter((m) => m.state !== 'handed in') ?? [];
  return (
    <section className="mb-3 rounded border border-rule bg-sheet px-3 py-2 text-sm" aria-label={say('In courses')}>
      {courses.data.map((c) => (
        <div key={`${c.platform} ${c.course}`}>
          <p>
            <b className="font-semibold">{c.course || c.platform}</b>
            {c.course && say(' at {platform}', { platform: c.platform })}:{' '}
            {say('{sent, plural, one {one score has arrived} other {# scores have arrived}}', { sent: c.sent })}
            {c.waiting > 0 && say(', {waiting} on the way', { waiting: c.waiting })}
            {c.refused.length > 0 && <span className="text-brick">{say(', {refused} not taken', { refused: c.refused.length })}</span>}
          </p>
          {c.refused.length > 0 && (
            <ul className="text-[13px] text-brick">
              {c.refused.slice(0, 5).map((r) => (
                <li key={r.name}>
                  {r.name}: {r.problem}
                </li>
              ))}
            </ul>
          )}
        </div>
      ))}
      <p className="mt-1 flex flex-wrap items-center gap-x-3">
        {mayEdit && courses.data.some((c) => c.refused.length) && (
          <button type="button" className="link" disabled={again.isPending} onClick={() => again.mutate()}>
            {say('Send them again')}
          </button>
        )}
        {courses.data.some((c) => c.members) && (
          <button type="button" className="link" disabled={members.isPending} onClick={() => members.mutate()}>
            {say('Who has not handed in?')}
          </button>
        )}
        {members.isError && <span className="text-brick">{wordsOf(members.error)}</span>}
      </p>
      {members.data && (
        <div className="mt-1" role="status">
          {missing.length === 0 ? (
            <p>{say('All {members} of the course have handed in.', { members: members.data.length })}</p>
          ) : (
            <>
              <p>{say('{missing} of {members} have not:', { missing: missing.length, members: members.data.length })}</p>
              <p className="text-[13px] text-ink-2">
                {missing.map((m) => (m.state === 'begun' ? say('{name} (has begun)', { name: m.name }) : m.name)).join(', ')}
              </p>
              <button
                type="button"
                className="link"
                onClick={() => copyText(missing.map((m) => (m.mail ? `${m.name} <${m.mail}>` : m.name)).join(', '), say('The names are in the clipboard.'))}
              >
                {say('Copy the names')}
              </button>
            </>
          )}
        </div>
      )}
    </section>
  );
}
