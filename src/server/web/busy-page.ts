/**
 * What a page answers while the studio cannot: no script, no file of ours, since neither may be
 * there.
 */
export const RETRY_SECONDS = 3;

const REASONS = {
  busy: ['The studio is busy', 'Many people are asking at once.'],
  database: [
    'The database cannot be reached',
    'It is being started again, or somebody is at work on it.',
  ],
} as const;
export type BusyReason = keyof typeof REASONS;

export function busyPage(reason: BusyReason): string {
  const [title, why] = REASONS[reason];
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="refresh" content="${String(RETRY_SECONDS)}">
<title>${title} · Bright Loom</title>
<style>
  body { margin: 0; display: grid; place-items: center; min-height: 100vh; }
  body { background: #3a3a3a; color: #ececec; font: 15px/1.5 sans-serif; }
  main { max-width: 44ch; padding: 2rem; border: 1px solid #5a5a5a; background: #464646; }
  h1 { font-size: 1.25rem; margin: 0 0 .5rem; }
  a { color: inherit; }
</style>
</head>
<body><main role="alert">
<h1>${title}</h1>
<p>${why} Nothing is lost: unsaved work stays in your browser and is saved when the studio
answers again.</p>
<p>This page tries again by itself every ${String(RETRY_SECONDS)} seconds.
<a href="">Try now</a></p>
</main></body>
</html>
`;
}
