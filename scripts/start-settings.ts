/**
 * What `./start` is told: by its options, by the environment, and by what it kept from the last
 * time.
 */
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Joi from 'joi';
import { SETTINGS } from './cluster-files';
import { freePort } from './ports';

export interface Settings {
  readonly port: number;
  readonly host: string;
  /** The address under which people reach the studio. */
  readonly publicUrl: string;
  readonly secret: string;
  readonly demoPassword: string;
}

const portForm = Joi.number().integer().min(1).max(65535);
const urlForm = Joi.string()
  .uri({ scheme: ['http', 'https'] })
  .pattern(/^https?:\/\/[^/]+\/?$/);

function checked(name: string, given: string, form: Joi.Schema, what: string): unknown {
  const { error, value } = form.validate(given) as { error?: Error; value: unknown };
  if (error) throw new Error(`${name} is “${given}”; it must be ${what}. Nothing was started.`);
  return value;
}

/**
 * Reads the settings and keeps what must be the same next time. @throws Error that names what is
 * wrong
 */
export async function readSettings(folder: string, env: NodeJS.ProcessEnv): Promise<Settings> {
  mkdirSync(folder, { recursive: true, mode: 0o711 });
  const file = path.join(folder, SETTINGS);
  const kept = existsSync(file)
    ? (JSON.parse(readFileSync(file, 'utf8')) as Partial<Settings>)
    : {};
  const wanted = env['PORT']
    ? Number(checked('PORT', env['PORT'], portForm, 'a port from 1 to 65535'))
    : undefined;
  const port = wanted ?? (await freePort(kept.port));
  const host = env['HOST'] ?? '127.0.0.1';
  const publicUrl = env['PUBLIC_URL']
    ? String(
        checked(
          'PUBLIC_URL',
          env['PUBLIC_URL'],
          urlForm,
          'an address such as https://loom.studio.example, without a path',
        ),
      )
    : `http://127.0.0.1:${String(port)}`;
  const secret = kept.secret ?? randomBytes(32).toString('hex');
  const demoPassword = kept.demoPassword ?? randomBytes(6).toString('hex');
  writeFileSync(file, JSON.stringify({ port, secret, demoPassword }, null, 2), { mode: 0o600 });
  return { port, host, publicUrl: publicUrl.replace(/\/$/, ''), secret, demoPassword };
}
