/**
 * Takes the focus off whatever is disabled while it has it, such as Undo after the last step: browsers tell a disabled control of no key,
 * and nobody else, so that no shortcut would work any more.
 * @returns ends it
 */
export function releaseDisabled(root: HTMLElement): () => void {
  const observer = new MutationObserver((changes) => {
    for (const { target } of changes) {
      if (target === document.activeElement && (target as HTMLElement).matches(':disabled'))
        (target as HTMLElement).blur();
    }
  });
  observer.observe(root, { subtree: true, attributes: true, attributeFilter: ['disabled'] });
  return () => observer.disconnect();
}
