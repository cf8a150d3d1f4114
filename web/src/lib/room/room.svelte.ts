import type { Ink } from '../api/types';

/** How this person's screen is set up; kept in this browser. */
export type Room = 'day' | 'night';
export type Surround = 'light' | 'mid' | 'dark';

const PLACE = 'nubilis-room';
/** Of the bench at rest, CSS pixels. */
export const BENCH_HEIGHT = 208;

interface Settings {
  room: Room;
  surround: Surround;
  letters: boolean;
  /** Keys that this person has put elsewhere, by their commands. */
  keys: Record<string, string>;
  /** Of the bench below the photo, CSS pixels. */
  benchHeight: number;
  /** Of a row of the contact sheet, CSS pixels. */
  sheetSize: number;
  /** What masks are drawn with on the photo. */
  ink: Ink;
}

function read(): Settings {
  const ink: Ink = { hue: null, opacity: 0.85 };
  const resting: Settings = {
    room: 'day',
    surround: 'mid',
    letters: true,
    keys: {},
    benchHeight: BENCH_HEIGHT,
    sheetSize: 230,
    ink,
  };
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
