/** Finds layout faults of a page in an ordinary window; runs inside the page. */
export interface Faults {
  readonly sideways: readonly string[];
  readonly cut: readonly string[];
  readonly wrapped: readonly string[];
  readonly nested: readonly string[];
}

export function faultsOfWindow(): Faults {
  const named = (e: Element): string =>
    `${e.tagName.toLowerCase()}${e.getAttribute('aria-label') ? `[${e.getAttribute('aria-label')}]` : ''} "${(e.textContent ?? '').trim().slice(0, 40)}"`;
  const all = [...document.body.querySelectorAll<HTMLElement>('*')].filter(
    (e) => e.checkVisibility() && e.getClientRects().length > 0,
  );
  const style = new Map(all.map((e) => [e, getComputedStyle(e)]));
  const scrollsBy = (e: HTMLElement, axis: 'x' | 'y'): boolean => {
    const how = style.get(e)?.[axis === 'x' ? 'overflowX' : 'overflowY'];
    const over = axis === 'x' ? e.scrollWidth - e.clientWidth : e.scrollHeight - e.clientHeight;
    return (how === 'auto' || how === 'scroll') && over > 1;
  };
  const clipped = (e: HTMLElement): boolean => {
    const box = e.getBoundingClientRect();
    if (box.width === 0) return false;
    if (box.left < -1 || box.right > innerWidth + 1) return true;
    for (let up = e.parentElement; up; up = up.parentElement) {
      const how = style.get(up);
      if (!how || how.overflowX === 'visible') continue;
      const edge = up.getBoundingClientRect();
      if (box.left < edge.left - 1 || box.right > edge.right + 1) return true;
    }
    return false;
  };
  const isControl = (e: Element): boolean =>
    e.matches('button, input:not([type=hidden]), select, textarea, a, [role=slider]');
  const told = (e: Element): boolean => e.closest('[title]') !== null;
  const own = (e: Element): boolean =>
    [...e.childNodes].some(
      (n) => n.nodeType === Node.TEXT_NODE && (n.textContent ?? '').trim() !== '',
    );
  return {
    sideways: all.filter((e) => scrollsBy(e, 'x')).map(named),
    cut: [
      ...all.filter((e) => isControl(e) && !e.closest('[data-testid=handles]') && clipped(e)),
      ...all.filter(
        (e) =>
          own(e) &&
          e.scrollWidth > e.clientWidth + 1 &&
          style.get(e)!.overflowX === 'hidden' &&
          e.clientWidth > 0 &&
          !told(e),
      ),
    ].map(named),
    // Labels of one or two words stay on one line.
    wrapped: all
      .filter((e) => e.matches('button.word, [role=combobox], footer *, header *') && own(e))
      .filter((e) => {
        const range = document.createRange();
        range.selectNodeContents(e);
        return (
          new Set(
            [...range.getClientRects()]
              .filter((r) => r.width > 1)
              .map((r) => Math.round(r.top / 6)),
          ).size > 1
        );
      })
      .map(named),
    nested: all
      .filter(
        (e) => scrollsBy(e, 'y') && all.some((o) => o !== e && o.contains(e) && scrollsBy(o, 'y')),
      )
      .map(named),
  };
}
