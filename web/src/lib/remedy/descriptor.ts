// What one kind of remedy is on the screen: its place in the menu, its settings, a drag on the photo.
import { KINDS } from '../../generated/kinds';
import type { Component, Snippet } from 'svelte';
import type { Remedy } from '../api/types';
import type { RemedyKind } from '../recipe/kinds';

/** A number of a remedy as it is shown: kept value times factor. */
export interface Setting {
  name: string;
  label: string;
  least: number;
  most: number;
  resting: number;
  factor: number;
  unit: string;
  step?: number;
  /** Of its field, CSS pixels. */
  width?: number;
  /** More than the slider reaches may be typed. */
  beyond?: number;
  /** Where a value lies on the bar, and back, when even steps would not be even to the eye. */
  toBar?: (value: number) => number;
  fromBar?: (position: number) => number;
}

export interface RemedyDescriptor {
  kind: RemedyKind;
  /** Its place among the kinds. */
  order: number;
  /** What it is for, in a few words. */
  purpose: string;
  /** A line drawing of 24 x 24. */
  drawing: string;
  /** The amount first. */
  settings: Setting[];
  /** What is drawn or listed besides; the settings, as rows, are placed by it. */
  controls?: Component<{ settings: Snippet }>;
  /** What can be switched: field and label. */
  ticks?: [string, string][];
  /** What a drag on the photo does, for the button and while nothing is dragged yet. */
  dragHint: string;
  /** The remedy with what a drag takes hold of: of the colour at the place, OKLab lightness, a, b. */
  grab?: (remedy: Remedy, colour: [number, number, number]) => Remedy;
  /** The remedy after a drag of so many CSS pixels. other: with Shift. */
  dragged: (remedy: Remedy, by: [number, number], other: boolean) => Remedy;
  /** What a drag has come to. */
  told: (remedy: Remedy) => string;
}

type Numbers = Record<string, number>;

/** Within bounds, in steps of a thousandth. */
export function within(value: number, least: number, most: number): number {
  return Math.round(Math.min(Math.max(value, least), most) * 1000) / 1000;
}

/** A number of the core's, with its bounds and where it rests, shown in per cent unless told otherwise. */
export function setting(
  kind: RemedyKind,
  name: string,
  label: string,
  more: Partial<Setting> = {},
): Setting {
  const { resting, bounds } = KINDS.remedies[kind];
  const { factor } = { factor: 100, ...more };
  const [least, most] = (bounds as Record<string, readonly [number, number]>)[name] ?? [0, 1];
  const rests = (resting as unknown as Numbers)[name] ?? 0;
  const shown = { least: least * factor, most: most * factor, resting: rests * factor };
  return { name, label, ...shown, unit: ' %', ...more, factor };
}

export function amount(kind: RemedyKind, most?: number): Setting {
  return setting(kind, 'amount', 'Amount', most === undefined ? {} : { most });
}

const PER_PIXEL = 0.004;

/** Of most remedies a drag to the right is more of it. */
export function draggedAmount(
  most: number,
): Pick<RemedyDescriptor, 'dragHint' | 'dragged' | 'told'> {
  return {
    dragHint: 'Drag sideways on the photo: the amount',
    dragged: (remedy, [dx]) => ({
      ...remedy,
      amount: within(remedy.amount + dx * PER_PIXEL, 0, most),
    }),
    told: (remedy) => `Amount ${(remedy.amount * 100).toFixed(0)} %`,
  };
}
