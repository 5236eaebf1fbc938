import { Injectable, signal } from '@angular/core';

/** A question on the page: for a name where `name` is given, else for yes or no. */
export interface Question {
  title: string;
  text?: string;
  /** What the name field begins with. */
  name?: string;
  /** Word on the button that goes ahead. */
  action: string;
  answer: (value: string | null) => void;
}

/** Questions that stop the work until they are answered. */
@Injectable({ providedIn: 'root' })
export class Ask {
  readonly question = signal<Question | null>(null);

  /** A name the user typed, without spaces around it; null where there is none. */
  async name(title: string, action: string, present = ''): Promise<string | null> {
    const typed = await this.put({ title, action, name: present });
    return typed?.trim().slice(0, 200) || null;
  }

  async sure(title: string, text: string, action: string): Promise<boolean> {
    return (await this.put({ title, text, action })) !== null;
  }

  private put(question: Omit<Question, 'answer'>): Promise<string | null> {
    this.question()?.answer(null);
    return new Promise((resolve) => {
      this.question.set({
        ...question,
        answer: (value) => {
          this.question.set(null);
          resolve(value);
        },
      });
    });
  }
}
