import { call } from '../api/client';
import type { Session } from '../api/types';

/** Who is signed in; null until the server has answered. */
class SessionStore {
  current = $state<Session | null>(null);

  async load(): Promise<void> {
    this.current = await call<Session>('GET', '/session');
  }

  async signIn(name: string, password: string): Promise<void> {
    this.current = await call<Session>('POST', '/session', { name, password });
  }

  async signInToDemo(): Promise<void> {
    this.current = await call<Session>('POST', '/session/demo');
  }

  async signOut(): Promise<void> {
    this.current = await call<Session>('DELETE', '/session');
  }
}

export const session = new SessionStore();
