import { call, reasonOf } from '../api/client';
import type { Browser, Given, NotedLine, Person } from '../api/types';
import { pointerRests } from '../controls/resting';
import { session } from '../session/session.svelte';

/** One's own password and browsers; for an owner, everybody's accounts and what was noted. */
export class Account {
  browsers = $state.raw<Browser[]>([]);
  people = $state.raw<Person[]>([]);
  noted = $state.raw<NotedLine[]>([]);
  /** A password that was just made: told this once. */
  given = $state.raw<Given | null>(null);
  trouble = $state('');
  told = $state('');

  get owner(): boolean {
    return session.current?.owner ?? false;
  }

  load(): Promise<boolean> {
    return this.#attempt(async () => {
      const browsers = await call('get', '/api/sessions');
      await pointerRests();
      this.browsers = browsers;
      if (this.owner) await this.#loadPeople();
    });
  }

  choose(old: string, chosen: string): Promise<boolean> {
    return this.#attempt(async () => {
      await session.choosePassword(old, chosen);
      this.told = 'Your password is changed; other browsers are signed out.';
      this.browsers = await call('get', '/api/sessions');
    });
  }

  end(id: string): Promise<boolean> {
    return this.#attempt(async () => {
      const path = { session_id: id };
      this.browsers = await call('delete', '/api/sessions/{session_id}', { path });
    });
  }

  make(name: string, owner: boolean): Promise<boolean> {
    return this.#attempt(async () => {
      this.given = await call('post', '/api/people', { body: { name, owner } });
      await this.#loadPeople();
    });
  }

  givePassword(person: Person): Promise<boolean> {
    return this.#attempt(async () => {
      const path = { person_id: person.id };
      this.given = await call('post', '/api/people/{person_id}/password', { path });
      await this.#loadPeople();
    });
  }

  change(
    person: Person,
    to: Partial<Pick<Person, 'owner' | 'active' | 'quota_mb'>>,
  ): Promise<boolean> {
    return this.#attempt(async () => {
      const { owner, active, quota_mb } = { ...person, ...to };
      const path = { person_id: person.id };
      const body = { owner, active, quota_mb };
      await call('put', '/api/people/{person_id}', { path, body });
      // One who makes another the owner may have left it to them.
      await session.load();
      if (this.owner) await this.#loadPeople();
    });
  }

  /** An account with all that it holds; an owner can give it back for thirty days. */
  remove(person: Person): Promise<boolean> {
    return this.#attempt(async () => {
      await call('delete', '/api/people/{person_id}', { path: { person_id: person.id } });
      await this.#loadPeople();
    });
  }

  /** One's own. */
  leave(password: string): Promise<boolean> {
    return this.#attempt(async () => {
      await session.leave(password);
    });
  }

  async #loadPeople(): Promise<void> {
    const [people, noted] = await Promise.all([
      call('get', '/api/people'),
      call('get', '/api/noted'),
    ]);
    await pointerRests();
    [this.people, this.noted] = [people, noted];
  }

  async #attempt(work: () => Promise<void>): Promise<boolean> {
    this.trouble = this.told = '';
    try {
      await work();
      return true;
    } catch (error) {
      this.trouble = reasonOf(error);
      return false;
    }
  }
}
