'use client';

/** What stands in for everything where not even the frame of the pages could be made. */
export default function GlobalError({ reset }: { readonly reset: () => void }) {
  return (
    <html lang="en">
      <body>
        <main role="alert">
          <h1>Bright Loom cannot be shown at the moment</h1>
          <p>Nothing is lost: unsaved work stays in this browser.</p>
          <button type="button" onClick={reset}>
            Try again
          </button>
        </main>
      </body>
    </html>
  );
}
