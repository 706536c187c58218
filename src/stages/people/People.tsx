import type { PeopleView } from '@/server/account';
import { When } from '@/ui/When';

const MAY = { owner: 'everything', reviewer: 'sessions, kits, reports', reader: 'nothing' } as const;

/** Who signs in, and what was done: for owners. */
export function People({ view: { people, doings } }: { view: PeopleView }) {
  return (
    <main id="main" className="w-full max-w-[860px] mx-auto px-[18px] py-7">
      <h1>People</h1>
      <p className="text-ink-2 text-lead mt-1 mb-5 max-w-[70ch]">
        Who may sign in where this answers beyond its own machine (<code>./glade up --host NAME</code>). Accounts are
        made, changed and removed at the desk:{' '}
        <code className="block mt-1">./glade user add | role | password | remove NAME</code>
      </p>
      {people.length === 0 ? (
        <p className="text-ink-2">
          Nobody yet. The first account is an owner’s: <code>./glade user add NAME --role owner</code>
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full text-left">
            <thead className="text-ink-3 text-label">
              <tr>
                {['Name', 'Role', 'May change', 'Passkeys', 'Last seen'].map((one) => (
                  <th key={one} scope="col" className="font-normal py-1.5 pr-4">
                    {one}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {people.map(({ name, role, passkeys, seen }) => (
                <tr key={name} className="border-t border-rule">
                  <th scope="row" className="font-semibold py-2 pr-4">
                    {name}
                  </th>
                  <td className="pr-4">{role}</td>
                  <td className="pr-4 text-ink-2">{MAY[role]}</td>
                  <td className="pr-4 tabular-nums">{passkeys}</td>
                  <td className="tabular-nums">{seen ? <When at={seen} /> : 'never'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <h2 className="mt-8">What was done</h2>
      <p className="text-ink-3 mb-3">
        Newest first; the same within ten minutes is one line. What is done at the desk isn’t noted here.
      </p>
      {doings.length === 0 ? (
        <p className="text-ink-2">Nothing yet.</p>
      ) : (
        <ul className="border-t border-rule">
          {doings.map(({ name, words, times, at }, i) => (
            <li key={i} className="border-b border-rule py-2 grid gap-x-4 sm:grid-cols-[9rem_9rem_1fr]">
              <span className="text-ink-3 tabular-nums">
                <When at={at} />
              </span>
              <span className="font-semibold truncate">{name}</span>
              <span>
                {words}
                {times > 1 && <span className="text-ink-3"> ({times} times)</span>}
              </span>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
