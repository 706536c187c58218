/** What the reviewer has set, by name; what was never set is `null`. */
import { store } from './database';
import type { Json } from './models';

export type SettingName = 'bands' | 'weights' | 'demo' | 'live';

export async function readSetting(name: SettingName): Promise<unknown> {
  return (await store().models.Setting.findByPk(name))?.data ?? null;
}

/** Writes a setting; `null` forgets it. */
export async function writeSetting(name: SettingName, data: Json | null): Promise<void> {
  const { Setting } = store().models;
  if (data === null) await Setting.destroy({ where: { name } });
  else await Setting.upsert({ name, data });
}
