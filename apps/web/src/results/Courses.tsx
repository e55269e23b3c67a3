/** A quiz inside courses: whose scores have arrived there, and who of the course has not handed in. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, call, wordsOf } from '../api/client.js';
import { copyText } from '../ui/copyText.js';

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
    <section className="mb-3 rounded border border-rule bg-sheet px-3 py-2 text-sm" aria-label="In courses">
      {courses.data.map((c) => (
        <div key={`${c.platform} ${c.course}`}>
          <p>
            <b className="font-semibold">{c.course || c.platform}</b>
            {c.course && ` at ${c.platform}`}: {c.sent === 1 ? 'one score has arrived' : `${c.sent} scores have arrived`}
            {c.waiting > 0 && `, ${c.waiting} on the way`}
            {c.refused.length > 0 && <span className="text-brick">, {c.refused.length} not taken</span>}
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
            Send them again
          </button>
        )}
        {courses.data.some((c) => c.members) && (
          <button type="button" className="link" disabled={members.isPending} onClick={() => members.mutate()}>
            Who has not handed in?
          </button>
        )}
        {members.isError && <span className="text-brick">{wordsOf(members.error)}</span>}
      </p>
      {members.data && (
        <div className="mt-1" role="status">
          {missing.length === 0 ? (
            <p>All {members.data.length} of the course have handed in.</p>
          ) : (
            <>
              <p>
                {missing.length} of {members.data.length} have not:
              </p>
              <p className="text-[13px] text-ink-2">{missing.map((m) => (m.state === 'begun' ? `${m.name} (has begun)` : m.name)).join(', ')}</p>
              <button
                type="button"
                className="link"
                onClick={() => copyText(missing.map((m) => (m.mail ? `${m.name} <${m.mail}>` : m.name)).join(', '), 'The names are in the clipboard.')}
              >
                Copy the names
              </button>
            </>
          )}
        </div>
      )}
    </section>
  );
}
