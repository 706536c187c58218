/** Whether anything happened that a look at a session would show, told by one short query. */
import { QueryTypes } from 'sequelize';
import { store } from '@/store/database';

/**
 * A text that changes when files arrive, the session changes, its newest measurement is another or stands otherwise (how far it is is no news:
 * whoever looks would take time from it), or another sitting becomes the live one.
 */
export async function sessionNews(id: string): Promise<string> {
  const [row] = await store().sequelize.query<{ news: string }>(
    `SELECT CONCAT_WS(' ',
      (SELECT CONCAT(COUNT(*), '/', COALESCE(MAX(id), 0)) FROM inbox),
      (SELECT updated_at FROM sessions WHERE id = :id),
      (SELECT CONCAT(id, state) FROM jobs WHERE session_id = :id ORDER BY id DESC LIMIT 1),
      (SELECT data FROM settings WHERE name = 'live')) AS news`,
    { replacements: { id }, type: QueryTypes.SELECT },
  );
  return row.news;
}
