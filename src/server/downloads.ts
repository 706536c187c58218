/** Names and headers of downloads. */

/** A file name that every system takes, from a session's title. */
export function downloadName(title: string, ending: string): string {
  const stem = title
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .replace(/\s+/g, '-')
    .slice(0, 80);
  return `${stem || 'session'}${ending}`;
}

/** Headers that make a browser save the answer under a name. */
export function attachment(name: string, type: string): Record<string, string> {
  return { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` };
}
