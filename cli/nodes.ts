import { listDefinitions } from '@/core/compile/catalogue';
import { describeCatalogue } from '@/core/compile/describe';
import type { Arguments } from './arguments';

export function runNodes({ values }: Arguments, print: (text: string) => void): number {
  if (values['json']) print(JSON.stringify(describeCatalogue(), null, 2));
  else
    for (const definition of listDefinitions())
      print(`${definition.id.padEnd(32)} ${definition.help}`);
  return 0;
}
