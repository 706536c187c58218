/** A phone's browser that has been told to trust this desk: it knows the key that signs the desk's addresses. */
import { chromium, type Browser } from '@playwright/test';
import { createHash, X509Certificate } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import config from '../playwright.config';

export async function trustingBrowser(): Promise<Browser> {
  const signing = join(process.env.GLADE_VAR!, 'tls', 'kept', 'pki', 'authorities', 'local', 'intermediate.crt');
  const key = new X509Certificate(await readFile(signing)).publicKey.export({ type: 'spki', format: 'der' });
  const { executablePath, args = [] } = config.use!.launchOptions!;
  const hash = createHash('sha256').update(key).digest('base64');
  return chromium.launch({ executablePath, args: [...args, `--ignore-certificate-errors-spki-list=${hash}`] });
}
