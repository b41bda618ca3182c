'use client';
import { Copy, X } from 'lucide-react';
import { toast } from 'sonner';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';

interface Props {
  readonly link: string;
  readonly about: string;
  readonly expiresAt: string;
  readonly onClose: () => void;
}

/** A link that was made: it is shown this once, to be handed on by whatever means. */
export function MadeLinkNote({ link, about, expiresAt, onClose }: Props) {
  return (
    <div role="status" className="mb-3 border border-weld p-2 text-[12px]" data-testid="made-link">
      <div className="flex items-start justify-between gap-2">
        <p>
          {about} Hand this link on; it is shown only now and works once, until{' '}
          {new Date(expiresAt).toLocaleString('en-GB', {
            dateStyle: 'medium',
            timeStyle: 'short',
          })}
          .
        </p>
        <IconButton name="Put the link away" onClick={onClose}>
          <X size={12} />
        </IconButton>
      </div>
      <div className="mt-1 flex items-center gap-2">
        <input
          readOnly
          aria-label="The link"
          className="figures min-w-0 flex-1 border border-line bg-ground px-1 py-0.5 text-[11px]"
          value={link}
          onFocus={(event) => {
            event.target.select();
          }}
        />
        <Button
          onClick={() => {
            void navigator.clipboard.writeText(link).then(() => toast('Copied the link'));
          }}
        >
          <Copy size={12} /> Copy
        </Button>
      </div>
    </div>
  );
}
