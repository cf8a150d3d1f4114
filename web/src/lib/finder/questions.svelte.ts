import { call } from '../api/client';
import { pointerRests } from '../controls/resting';
import { router } from '../router.svelte';

/** The photos of a shoot on which the finder asks which picture is right, answered one after another. */
class Questions {
  photos = $state.raw<number[]>([]);
  /** Whether one photo's answer leads to the next. */
  walking = $state(false);

  async load(shootId: number): Promise<void> {
    const path = { shoot_id: shootId };
    const asked = await call('get', '/api/shoots/{shoot_id}/questions', { path }).catch(() => null);
    await pointerRests();
    this.photos = asked?.photos ?? [];
  }

  begin(): void {
    this.walking = true;
    this.#go(this.photos[0], null);
  }

  /** After a photo was answered: to the next one, or back to the sheet. */
  answered(photoId: number, shootId: number): void {
    this.photos = this.photos.filter((id) => id !== photoId);
    if (this.walking) this.#go(this.photos[0], shootId);
  }

  stop(): void {
    this.walking = false;
  }

  #go(photoId: number | undefined, shootId: number | null): void {
    if (photoId !== undefined) return router.go(`/photos/${photoId}`);
    this.walking = false;
    if (shootId !== null) router.go(`/shoots/${shootId}`);
  }
}

export const questions = new Questions();
