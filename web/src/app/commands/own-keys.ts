const TEXT = /^(text|search|number|email|url|tel|password)$/;
const STEPS = /^(Arrow|Home$|End$|Page)/;

/**
 * Whether what has the focus wants a key for itself. Where text is typed it wants nearly all; a button, choice or slider only what works
 * it, and a button only where it was reached by the keyboard: after a click the space bar plays, as everywhere.
 */
export function takesKey(target: HTMLElement, pressed: string, reachedByKeyboard: boolean): boolean {
  if (target.isContentEditable || target.tagName === 'TEXTAREA') return !isForAll(pressed);
  if (target instanceof HTMLInputElement && TEXT.test(target.type)) return !isForAll(pressed);
  if (pressed === 'Tab' || pressed === 'Shift+Tab') return true;
  if (target instanceof HTMLInputElement && target.type === 'range') return STEPS.test(pressed);
  if (target instanceof HTMLSelectElement) return STEPS.test(pressed) || (reachedByKeyboard && isPlain(pressed));
  return reachedByKeyboard && /^(Space|Enter)$/.test(pressed) && target.matches(WORKED);
}

/** What is worked by Space or Enter. */
const WORKED = 'button, a, summary, input, [role=button], [role=switch], [role=tab]';
const isForAll = (pressed: string): boolean => /^Ctrl\+[KS]$/.test(pressed);
const isPlain = (pressed: string): boolean => !pressed.includes('Ctrl+');
