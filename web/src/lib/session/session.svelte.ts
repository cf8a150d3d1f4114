import { call, onSignedOut } from '../api/client';
import type { Session } from '../api/types';

/** Who is signed in; null until the server has answered. */
class SessionStore {
  current = $state<Session | null>(null);
  /** Whether the session ended while somebody is at work: the page stays, and asks for the password. */
  ended = $state(false);
  #again: Promise<void> | null = null;
  #goOn = () => {};

  async load(): Promise<void> {
    this.current = await call('get', '/api/session');
  }

  async signIn(name: string, password: string): Promise<void> {
    this.current = await call('post', '/api/session', { body: { name, password } });
  }

  async signInToDemo(): Promise<void> {
    this.current = await call('post', '/api/session/demo');
  }

  async choosePassword(old: string, chosen: string): Promise<void> {
    const body = { old, new: chosen };
    this.current = await call('put', '/api/session/password', { body });
  }

  /** Delete one's own account. */
  async leave(password: string): Promise<void> {
    this.current = await call('post', '/api/account/delete', { body: { password } });
  }

  /** Resolves when whoever was signed in is so again; all that waits for it goes on then. */
  signedInAgain(): Promise<void> {
    this.ended = true;
    this.#again ??= new Promise((resolve) => (this.#goOn = resolve));
    return this.#again;
  }

  /** The same person. Throws when the password is wrong. */
  async signInAgain(password: string | null): Promise<void> {
    if (password === null) await this.signInToDemo();
    else await this.signIn(this.current?.user ?? '', password);
    this.ended = false;
    this.#again = null;
    this.#goOn();
  }

  async signOut(): Promise<void> {
    this.current = await call('delete', '/api/session');
  }
}

export const session = new SessionStore();
onSignedOut(() => session.signedInAgain());
