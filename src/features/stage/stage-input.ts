/**
 * A pointer's or wheel's event as it goes to the stage's worker: what the controls read of it,
 * counted from the canvas.
 */
export interface StageInput {
  readonly type: string;
  readonly pointerId: number;
  readonly pointerType: string;
  readonly button: number;
  readonly buttons: number;
  readonly clientX: number;
  readonly clientY: number;
  readonly pageX: number;
  readonly pageY: number;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly shiftKey: boolean;
  readonly deltaX: number;
  readonly deltaY: number;
  readonly deltaMode: number;
}
/** Size of the canvas in pixels of the page, and how many of the screen each is. */
export interface StageSize {
  readonly width: number;
  readonly height: number;
  readonly ratio: number;
}

const POINTER = ['pointerdown', 'pointermove', 'pointerup', 'pointercancel'] as const;

/**
 * On the page: passes on what happens to the canvas. A pressed pointer keeps telling when it leaves
 * the canvas.
 */
export function listenTo(canvas: HTMLCanvasElement, send: (input: StageInput) => void): void {
  const pass = (event: PointerEvent | WheelEvent): void => {
    const box = canvas.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const { pointerId, pointerType } =
      event instanceof PointerEvent ? event : { pointerId: 0, pointerType: 'mouse' };
    const { deltaX, deltaY, deltaMode } =
      event instanceof WheelEvent ? event : { deltaX: 0, deltaY: 0, deltaMode: 0 };
    send({
      type: event.type,
      pointerId,
      pointerType,
      button: event.button,
      buttons: event.buttons,
      clientX: x,
      clientY: y,
      pageX: x,
      pageY: y,
      ctrlKey: event.ctrlKey,
      metaKey: event.metaKey,
      shiftKey: event.shiftKey,
      deltaX,
      deltaY,
      deltaMode,
    });
  };
  for (const type of POINTER)
    canvas.addEventListener(type, (event) => {
      if (type === 'pointerdown') canvas.setPointerCapture(event.pointerId);
      pass(event);
    });
  canvas.addEventListener(
    'wheel',
    (event) => {
      event.preventDefault();
      pass(event);
    },
    { passive: false },
  );
  canvas.addEventListener('contextmenu', (event) => {
    event.preventDefault();
  });
}

/** In the worker: stands for the canvas where the library's controls want an element. */
export class StageElement extends EventTarget {
  readonly style = { touchAction: '', cursor: '' };
  readonly pointerLockElement = null;
  private size: StageSize = { width: 1, height: 1, ratio: 1 };

  get ownerDocument(): this {
    return this;
  }
  get clientWidth(): number {
    return this.size.width;
  }
  get clientHeight(): number {
    return this.size.height;
  }

  resize(size: StageSize): void {
    this.size = size;
  }
  getBoundingClientRect(): DOMRectReadOnly {
    const { width, height } = this.size;
    return {
      x: 0,
      y: 0,
      left: 0,
      top: 0,
      right: width,
      bottom: height,
      width,
      height,
      toJSON: () => null,
    };
  }
  // The page captures pointers by itself.
  setPointerCapture(): void {
    /* nothing to do */
  }
  releasePointerCapture(): void {
    /* nothing to do */
  }

  take({ type, ...details }: StageInput): void {
    this.dispatchEvent(Object.assign(new Event(type, { cancelable: true }), details));
  }

  /** As the controls' types want it. */
  get asElement(): HTMLElement {
    return this as unknown as HTMLElement;
  }
}
