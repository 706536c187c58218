/** Makes a session of a document and of files that were taken in before; gives its id. Rejects with a sentence. */
export async function createSession(document: unknown, files: Readonly<Record<string, string>>): Promise<string> {
  const answer = await fetch('/api/sessions', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document, files }),
  });
  const { id, error } = (await answer.json()) as { id?: string; error?: string };
  if (!id) throw new Error(error ?? 'The session could not be made.');
  return id;
}
