import { afterEach, describe, expect, it, vi } from 'vitest';
import { releaseDisabled } from './release-disabled';

let end: (() => void) | undefined;
afterEach(() => end?.());

describe('a control that is disabled while it has the focus', () => {
  it('loses it, so that shortcuts go on working; others keep it', async () => {
    end = releaseDisabled(document.body);
    const [undo, other] = [0, 1].map(() => document.body.appendChild(document.createElement('button')));
    const released = [undo!, other!].map((each) => vi.spyOn(each, 'blur'));
    undo!.focus();
    other!.disabled = true;
    await Promise.resolve();
    expect(released[0]).not.toHaveBeenCalled();
    undo!.disabled = true;
    await Promise.resolve();
    expect(released[0]).toHaveBeenCalledOnce();
    expect(released[1]).not.toHaveBeenCalled();
  });
});
