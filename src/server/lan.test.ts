/** What the desk tells of where it is reached: by name where a certificate says which, else by its addresses. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { hostname, networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { lanAddresses } from './lan';

const before = { ...process.env };
const folder = mkdtempSync(join(tmpdir(), 'glade-lan-'));
afterEach(() => {
  for (const name of ['GLADE_LAN_PORT', 'GLADE_LAN_TLS', 'GLADE_CERT']) delete process.env[name];
});
afterAll(() => {
  Object.assign(process.env, before);
  rmSync(folder, { recursive: true });
});

const ADDRESSES = Object.values(networkInterfaces())
  .flatMap((list) => list ?? [])
  .filter((one) => one.family === 'IPv4' && !one.internal)
  .map((one) => one.address);

/** A certificate for these names, made by OpenSSL. */
function certificateFor(names: string): string {
  const path = join(folder, `${names.replace(/\W/g, '-')}.pem`);
  const words = ['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-subj', '/CN=x', '-addext', `subjectAltName=${names}`, '-keyout', '/dev/null', '-out', path]; // prettier-ignore
  expect(spawnSync('openssl', words).status).toBe(0);
  return path;
}

test('nothing where the network is not answered; else addresses of the scheme that is spoken', () => {
  expect(lanAddresses()).toEqual([]);
  process.env.GLADE_LAN_PORT = '8421';
  expect(lanAddresses()).toEqual(ADDRESSES.map((one) => `http://${one}:8421`));
  process.env.GLADE_LAN_TLS = '1';
  expect(lanAddresses()).toEqual(ADDRESSES.map((one) => `https://${one}:8421`));
});

test.each([
  ['DNS:desk.lab.example,DNS:other.example', 'desk.lab.example'],
  ['DNS:*.lab.example,DNS:lab.example', 'lab.example'],
  ['DNS:*.lab.example', `${hostname().split('.')[0].toLowerCase()}.lab.example`],
])('a certificate for %s is shown as %s', (names, shown) => {
  Object.assign(process.env, { GLADE_LAN_PORT: '8421', GLADE_LAN_TLS: '1', GLADE_CERT: certificateFor(names) });
  expect(lanAddresses()).toEqual([`https://${shown}:8421`]);
});

test('of one that is for addresses alone, or can’t be read, the addresses', () => {
  const own = ADDRESSES.map((one) => `https://${one}:8421`);
  for (const path of [certificateFor('IP:10.0.0.7'), join(folder, 'nothing.pem')]) {
    Object.assign(process.env, { GLADE_LAN_PORT: '8421', GLADE_LAN_TLS: '1', GLADE_CERT: path });
    expect(lanAddresses()).toEqual(own);
  }
});
