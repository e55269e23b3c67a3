/** A learning platform asks to open quizzes of a workspace in its courses: who may decides, once. */
import { mayAs } from '@zakuska/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, call, wordsOf } from '../api/client.js';
import { TopBar } from '../frame/Frame.js';
import { useSession } from '../signin/session.js';
import { Button } from '../ui/Button.js';
import { Field, Select } from '../ui/Field.js';
import { Say, say } from '../words/say.js';

export default function Register() {
  const [params] = useSearchParams();
  const session = useSession();
  const mine = session.workspaces.filter((w) => mayAs(w.role, 'administrator'));
  const [workspace, setWorkspace] = useState(mine[0]?.id ?? '');
  const configuration = params.get('openid_configuration') ?? '';
  const token = params.get('registration_token');
  const register = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/v1/workspaces/{workspace}/platforms/registrations', {
          params: { path: { workspace } },
          body: { configuration, ...(token && { token }) },
        }),
      ),
  });
  const platform = URL.canParse(configuration) ? new URL(configuration).host : null;
  // a platform that opened this page in a window of its own closes it when it is told (LTI Dynamic Registration 1.0)
  const close = (): void => {
    const parent = window.opener as Window | null;
    parent?.postMessage({ subject: 'org.imsglobal.lti.close' }, '*');
    window.close();
  };
  return (
    <div className="min-h-screen">
      <TopBar>{say('Quizzes in courses')}</TopBar>
      <main className="mx-auto max-w-2xl px-4 py-8 sm:px-6">
        <h1 className="text-2xl font-bold">{say('Open quizzes in courses')}</h1>
        {!platform ? (
          <p className="mt-3">
            <Say
              text="A learning platform leads here when Zakuska is registered there as a tool. The address to give it stands on Deliver, under <b>Own quiz</b>."
              values={{ b: (words) => <b>{words}</b> }}
            />{' '}
            <Link className="link" to="/">
              {say('Go to the sets')}
            </Link>
          </p>
        ) : register.data ? (
          <>
            <p className="mt-3" role="status">
              {say('{name} is registered. In a course there, choose Zakuska as a tool and pick the quiz.', { name: register.data.name })}
            </p>
            <Button look="primary" className="mt-4" onClick={close}>
              {say('Back to the platform')}
            </Button>
          </>
        ) : !mine.length ? (
          <p className="mt-3">{say('An administrator of a workspace registers a platform. Ask whoever that is to open this page.')}</p>
        ) : (
          <>
            <p className="mt-3">
              <Say
                text="<b>{platform}</b> asks to open quizzes of a workspace in its courses. It says who learners are, and gets their scores. It sees no set and no key."
                values={{ b: (words) => <b>{words}</b>, platform }}
              />
            </p>
            <div className="mt-4 grid max-w-sm gap-4">
              {mine.length > 1 && (
                <Field label={say('Workspace')}>
                  {(id) => (
                    <Select id={id} value={workspace} onChange={(e) => setWorkspace(e.target.value)}>
                      {mine.map((w) => (
                        <option key={w.id} value={w.id}>
                          {w.name}
                        </option>
                      ))}
                    </Select>
                  )}
                </Field>
              )}
              {register.isError && (
                <p className="text-brick" role="alert">
                  {wordsOf(register.error)}
                </p>
              )}
              <span>
                <Button look="primary" disabled={register.isPending} onClick={() => register.mutate()}>
                  {say('Register {platform}', { platform })}
                </Button>
              </span>
            </div>
          </>
        )}
      </main>
    </div>
  );
}
