import { call } from '../api/client';
import type { Session } from '../api/types';

/** Who is signed in; null until the server has answered. */
class SessionStore {
  current = $state<Session | null>(null);

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

  async signOut(): Promise<void> {
    this.current = await call('delete', '/api/session');
  }
}

export const session = new SessionStore();
