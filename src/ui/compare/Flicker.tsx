'use client';
import { useEffect, useState } from 'react';
import { ShownPicture } from './ShownPicture';
import type { PictureSource } from './ShownPicture';

/** How long each of the two is shown, milliseconds: slow enough to harm nobody. */
const TURN = 600;

interface Props {
  readonly before: PictureSource;
  readonly after: PictureSource;
  readonly beforeTitle: string;
  readonly afterTitle: string;
  readonly label: string;
}

/** Two pictures in turn at the same place; they can be stopped and turned by hand. */
export function Flicker({ before, after, beforeTitle, afterTitle, label }: Props) {
  const [isSecond, setSecond] = useState(false);
  const [isRunning, setRunning] = useState(true);
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => {
      setSecond((now) => !now);
    }, TURN);
    return () => {
      clearInterval(timer);
    };
  }, [isRunning]);
  return (
    <div>
      <div className="relative">
        <ShownPicture source={before} label={`${label}, ${beforeTitle}`} />
        <div className={`absolute inset-0 ${isSecond ? '' : 'invisible'}`}>
          <ShownPicture source={after} label={`${label}, ${afterTitle}`} />
        </div>
      </div>
      <div className="flex items-center gap-2 text-[12px]">
        <button
          type="button"
          className="min-h-[24px] border border-line px-2"
          onClick={() => {
            setRunning(!isRunning);
          }}
        >
          {isRunning ? 'Hold' : 'Go on'}
        </button>
        <button
          type="button"
          className="min-h-[24px] border border-line px-2"
          onClick={() => {
            setRunning(false);
            setSecond(!isSecond);
          }}
        >
          The other one
        </button>
        <span aria-live={isRunning ? 'off' : 'polite'}>{isSecond ? afterTitle : beforeTitle}</span>
      </div>
    </div>
  );
}
