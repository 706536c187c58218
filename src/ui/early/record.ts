/** One thing done on a page that is drawn and doesn't run yet. */
export interface EarlyDeed {
  event: Event;
  /** What a field held, or whether a box was checked: drawing the page anew may put back what stood before. */
  held?: string | boolean;
  /** Of a drop, whose own list is gone once its event is over. */
  files?: File[];
}

/** What was done, in its order. */
export interface EarlyWork {
  deeds: EarlyDeed[];
  /** Once true the page takes what is done to it by itself. */
  running: boolean;
  /** No more is taken down. */
  stop(): void;
}

declare global {
  interface Window {
    earlyWork?: EarlyWork;
  }
}

/**
 * Takes down what is typed, pressed, sent and dropped until the page runs. It is written into the page as it stands and runs before
 * anything else, so it uses nothing from outside itself.
 */
export function recordEarly(): void {
  const kinds = ['pointerdown', 'click', 'input', 'change', 'submit', 'keydown', 'dragover', 'drop'];
  const FIELD = 'input, textarea, select, [contenteditable]';
  const work: EarlyWork = {
    deeds: [],
    running: false,
    stop() {
      for (const kind of kinds) document.removeEventListener(kind, take, true);
    },
  };
  const isField = (event: Event) => event.type === 'input' || event.type === 'change';

  function take(event: Event) {
    const target = event.target as HTMLInputElement;
    const before = work.deeds.findIndex((one) => one.event.target === target && isField(one.event) === isField(event));
    if (work.running) {
      // The whole field is told now, by a person or because this is it: what it held before is old.
      if (isField(event) && before >= 0) work.deeds.splice(before, 1);
      return;
    }
    const deed: EarlyDeed = { event };
    if (event.type === 'dragover' || event.type === 'drop' || event.type === 'submit') {
      // Else the browser leaves the page: for the file, or for the form's address.
      event.preventDefault();
      if (event.type === 'dragover') return;
      if (event.type === 'drop') deed.files = Array.from((event as DragEvent).dataTransfer?.files ?? []);
    } else if (isField(event)) {
      deed.held = target.type === 'checkbox' || target.type === 'radio' ? target.checked : target.value;
      // Of a field what it holds at last counts, once.
      if (before >= 0) work.deeds.splice(before, 1);
    } else {
      // What is done to a field the field tells; links lead on, and labels and summaries work, without any script.
      const control = target.closest(`button, ${FIELD}, a[href], label, summary`);
      const isKey = event.type === 'keydown';
      // A finger on anything else, a picture or a slider, begins what only its next moves would end.
      if (isKey ? control !== null && control.tagName !== 'BUTTON' : control?.tagName !== 'BUTTON') return;
      // A button that sends a form is told by the form.
      if (event.type === 'click' && target.closest('button')?.matches('form button:not([type=button])')) return;
      // Who presses twice because nothing happened means once.
      if (work.deeds.some((one) => one.event.type === event.type && one.event.target === target)) return;
    }
    work.deeds.push(deed);
  }
  for (const kind of kinds) document.addEventListener(kind, take, true);
  window.earlyWork = work;
}
