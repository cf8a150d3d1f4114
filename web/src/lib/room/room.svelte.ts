/** How this person's screen is set up; kept in this browser. */
export type Room = 'day' | 'night';
export type Surround = 'light' | 'mid' | 'dark';

const PLACE = 'nubilis-room';

interface Settings {
  room: Room;
  surround: Surround;
  letters: boolean;
}

function read(): Settings {
  const resting: Settings = { room: 'day', surround: 'mid', letters: true };
  try {
    return { ...resting, ...(JSON.parse(localStorage.getItem(PLACE) ?? '{}') as object) };
  } catch {
    return resting;
  }
}

class RoomStore {
  settings = $state(read());

  set(change: Partial<Settings>): void {
    this.settings = { ...this.settings, ...change };
    localStorage.setItem(PLACE, JSON.stringify(this.settings));
    this.apply();
  }

  apply(): void {
    document.documentElement.dataset.room = this.settings.room;
    document.documentElement.dataset.surround = this.settings.surround;
  }
}

export const room = new RoomStore();
