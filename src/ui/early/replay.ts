import type { EarlyDeed, EarlyWork } from './record';

const TOLD = { bubbles: true, cancelable: true, composed: true };

/**
 * Does again, in order, what was done before the page ran.
 *
 * @param work taken down by `recordEarly`, of a page that runs now; what was done to an element that is gone is left out
 */
export async function replayEarly(work: EarlyWork): Promise<void> {
  for (let next = work.deeds.shift(); next; next = work.deeds.shift()) {
    if (!(next.event.target as Node).isConnected) continue;
    doAgain(next);
    // As when a person does it, the page is drawn anew before the next: what stands beside a field is taken from there.
    await drawn();
    // Fields that are taken over when they are left: this one was left already.
    if (next.held !== undefined && next.event.target !== document.activeElement)
      next.event.target!.dispatchEvent(new FocusEvent('focusout', TOLD));
    await drawn();
  }
  work.stop();
}

const drawn = () => new Promise((resolve) => setTimeout(resolve, 0));

function doAgain({ event, held, files }: EarlyDeed): void {
  const target = event.target as HTMLElement;
  if (event.type === 'submit') (target as HTMLFormElement).requestSubmit((event as SubmitEvent).submitter);
  else if (event.type === 'drop')
    target.dispatchEvent(new DragEvent('drop', { ...asGiven(event), ...carrying(files) }));
  else if (event.type === 'keydown') target.dispatchEvent(new KeyboardEvent('keydown', asGiven(event)));
  else if (event.type === 'pointerdown') target.dispatchEvent(new PointerEvent('pointerdown', asGiven(event)));
  else if (event.type === 'click') target.dispatchEvent(new MouseEvent('click', asGiven(event)));
  else tell(target, held);
}

/** A field says what it holds; what it is known to hold would be no change. */
function tell(field: HTMLElement, held: string | boolean | undefined): void {
  if (field instanceof HTMLInputElement && typeof held === 'boolean') {
    field.checked = !held;
    field.click();
  } else if (field instanceof HTMLInputElement && field.type === 'file') {
    field.dispatchEvent(new Event('change', TOLD));
  } else if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) {
    // What a field is given by its own setter counts as known; the prototype's tells nobody.
    field.value = '';
    Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), 'value')!.set!.call(field, held);
    field.dispatchEvent(new Event('input', TOLD));
  } else {
    if (field instanceof HTMLSelectElement) field.value = String(held);
    field.dispatchEvent(new Event('change', TOLD));
  }
}

function carrying(files: readonly File[] = []): DragEventInit {
  const dataTransfer = new DataTransfer();
  for (const file of files) dataTransfer.items.add(file);
  return { dataTransfer };
}

/** How an event was meant, for one more of its kind. */
function asGiven(event: Event): EventInit {
  const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event as KeyboardEvent;
  const { button, pointerType, pointerId, clientX, clientY } = event as PointerEvent;
  const held = { ctrlKey, metaKey, altKey, shiftKey };
  return event.type === 'keydown'
    ? ({ ...TOLD, ...held, key, code } as EventInit)
    : ({ ...TOLD, ...held, button, pointerType, pointerId, clientX, clientY } as EventInit);
}
