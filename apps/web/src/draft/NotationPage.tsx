/** Help: the notation on a page of its own. */
import { useEffect } from 'react';
import { TopBar } from '../frame/Frame.js';
import { NotationGuide } from './NotationGuide.js';
import { say } from '../words/say.js';

export default function NotationPage() {
  useEffect(() => {
    document.title = say('The notation · Zakuska');
  }, []);
  return (
    <div className="grid h-dvh grid-cols-1 grid-rows-[46px_minmax(0,1fr)]">
      <TopBar>{say('Help')}</TopBar>
      <main className="overflow-auto border-t border-rule px-4 sm:px-6">
        <div className="mx-auto max-w-5xl py-6">
          <h1 className="mb-3 text-2xl font-bold">{say('The notation')}</h1>
          <NotationGuide level={2} />
        </div>
      </main>
    </div>
  );
}
