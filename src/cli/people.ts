/** Accounts, made and changed at the desk: `people add NAME [--role ROLE]`, `role NAME ROLE`, `password NAME`, `remove NAME`, `list`, `any`. A password is read from standard input. */
import {
  AccountError,
  addAccount,
  changePassword,
  changeRole,
  closeStore,
  listAccounts,
  removeAccount,
  roleOf,
} from '@/store';

const USAGE =
  'usage: ./glade user add NAME [--role owner | reviewer | reader] | role NAME ROLE | password NAME | remove NAME | list';

async function typed(): Promise<string> {
  const parts: Buffer[] = [];
  for await (const part of process.stdin) parts.push(part as Buffer);
  return Buffer.concat(parts)
    .toString('utf8')
    .replace(/\r?\n$/, '');
}

/** Does what was asked; gives what is said of it. Throws AccountError. */
async function obey([what, name, ...rest]: string[]): Promise<string> {
  if (what === 'list' && name === undefined) {
    const accounts = await listAccounts();
    const line = ({ name: own, role, passkeys, seenAt }: (typeof accounts)[number]) =>
      `${own}: ${role}, ${passkeys} passkey${passkeys === 1 ? '' : 's'}, ${seenAt ? `last seen ${seenAt.toISOString().slice(0, 10)}` : 'never seen'}`;
    return accounts.length > 0 ? accounts.map(line).join('\n') : 'Nobody has an account.';
  }
  if (what === 'add' && name && (rest.length === 0 || (rest[0] === '--role' && rest.length === 2))) {
    const made = await addAccount(name, roleOf(rest[1] ?? 'reviewer'), await typed());
    return `“${made.name}” may sign in, as ${made.role}.`;
  }
  if (what === 'role' && name && rest.length === 1) {
    await changeRole(name, roleOf(rest[0]));
    return `“${name}” is ${rest[0]} now.`;
  }
  if (what === 'password' && name && rest.length === 0) {
    await changePassword(name, await typed());
    return `“${name}” has another password, and is signed out everywhere.`;
  }
  if (what === 'remove' && name && rest.length === 0) {
    await removeAccount(name);
    return `“${name}” may not sign in any more. What they did stays.`;
  }
  throw new AccountError(USAGE);
}

async function main(): Promise<void> {
  const asked = process.argv.slice(2);
  // For `up`, which says so where nobody could sign in.
  if (asked[0] === 'any') process.exitCode = (await listAccounts()).length > 0 ? 0 : 1;
  else console.log(await obey(asked));
  await closeStore();
}

main().catch((error: unknown) => {
  if (!(error instanceof AccountError)) console.error(error);
  else console.error(`glade: ${error.message}`);
  process.exit(1);
});
