/** Something that waits for a person: told with where it is gone on with. */
export type Waiting =
  | { kind: 'files'; count: number }
  | { kind: 'job'; session: string; title: string; done: number; total: number }
  | { kind: 'measured'; session: string; title: string }
  | { kind: 'stopped'; session: string; title: string }
  | { kind: 'failed'; session: string; title: string }
  | { kind: 'taps'; session: string; title: string; left: number }
  | { kind: 'footage'; session: string; title: string };

export const keyOf = (one: Waiting): string => ('session' in one ? `${one.kind} ${one.session}` : one.kind);

/** What it is, what is pressed, and where that leads. */
export function inWords(one: Waiting): { words: string; press: string; href: string } {
  const stage = (name: string) => ('session' in one ? `/sessions/${one.session}/${name}` : '/');
  switch (one.kind) {
    case 'files':
      return {
        words: one.count === 1 ? 'A file has arrived' : `${one.count} files have arrived`,
        press: 'Sort them',
        href: '/sessions/new',
      };
    case 'job':
      return { words: `“${one.title}” is being measured`, press: 'Watch', href: stage('measure') };
    case 'measured':
      return { words: `“${one.title}” is measured`, press: 'Read the verdict', href: stage('verdict') };
    case 'stopped':
      return { words: `Measuring “${one.title}” was stopped`, press: 'Measure it', href: stage('measure') };
    case 'failed':
      return { words: `“${one.title}” could not be measured`, press: 'See why', href: stage('measure') };
    case 'taps':
      return {
        words: `“${one.title}”: ${one.left} ${one.left === 1 ? 'take' : 'takes'} left to shoot`,
        press: 'Shoot on',
        href: stage('shoot'),
      };
    case 'footage':
      return { words: `“${one.title}” is shot`, press: 'Drop its footage', href: stage('footage') };
  }
}
