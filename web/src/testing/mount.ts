import { type OutputRef, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { configure, within, type BoundFunctions, type queries } from '@testing-library/dom';
import userEvent, { type UserEvent } from '@testing-library/user-event';
import { vi } from 'vitest';

// Without styles nothing is hidden by them, and looking for that takes most of the time.
configure({ defaultHidden: true });

/** A component on the page, as its user meets it. */
export interface Mounted<C> {
  fixture: ComponentFixture<C>;
  component: C;
  host: HTMLElement;
  /** Finds what the component shows by what it says. */
  show: BoundFunctions<typeof queries>;
  user: UserEvent;
}

/**
 * Puts a component on the page with its inputs set; what its outputs tell is collected in `told`. Waits until it is drawn.
 * The store has to be open.
 */
export async function mount<C>(
  type: Type<C>,
  inputs: Record<string, unknown> = {},
  told: Record<string, unknown[]> = {},
): Promise<Mounted<C>> {
  // The page of the tests lays nothing out: no pointer can be held, nothing has a size.
  Element.prototype.setPointerCapture = () => undefined;
  Element.prototype.scrollIntoView = () => undefined;
  globalThis.ResizeObserver ??= class {
    observe(): void {}
    unobserve(): void {}
    disconnect(): void {}
  };
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  for (const [name, list] of Object.entries(told))
    (fixture.componentInstance as Record<string, OutputRef<unknown>>)[name]!.subscribe((each) => list.push(each));
  await fixture.whenStable();
  const host = fixture.nativeElement as HTMLElement;
  return { fixture, component: fixture.componentInstance, host, show: within(host), user: userEvent.setup() };
}

/** Waits until something holds, long enough for a machine that is busy. */
export const eventually = (check: () => void): Promise<void> => vi.waitFor(check, { timeout: 20_000 });
