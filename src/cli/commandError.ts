/** Something a person can act on, with the exit code it ends in. */
export class CommandError extends Error {
  constructor(
    readonly lines: string[],
    readonly exitCode: number,
  ) {
    super(lines.join('\n'));
  }
}
