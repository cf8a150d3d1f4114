import type { FileFormat, MaskFormat, Order } from '../api/types';

export const FORMATS: readonly [FileFormat, string, string][] = [
  ['jpeg', 'JPEG', 'for looking at, everywhere'],
  ['png', 'PNG, 8 bit', 'without loss'],
  ['png16', 'PNG, 16 bit', 'without loss'],
  ['tiff', 'TIFF, 8 bit', 'without loss'],
  ['tiff16', 'TIFF, 16 bit', 'without loss, for more work elsewhere'],
  ['avif', 'AVIF, 8 bit', 'small, for the web'],
  ['avif10', 'AVIF, 10 bit', 'small, smooth skies'],
  ['avif12', 'AVIF, 12 bit', 'small, the smoothest'],
  ['jxl', 'JPEG XL, 8 bit', 'without loss, in a standard space'],
  ['jxl16', 'JPEG XL, 16 bit', 'without loss, in a standard space'],
  ['ora', 'OpenRaster', 'the photo, and each cast as a layer with its mask'],
];

export const SPACES: readonly [NonNullable<Order['space']>, string][] = [
  ['keep', 'as it came'],
  ['srgb', 'sRGB'],
  ['display-p3', 'Display P3'],
  ['rec2020', 'Rec. 2020'],
];

export const ABOUT: readonly [NonNullable<Order['about']>, string][] = [
  ['all', 'all that it came with'],
  ['no-place', 'all but where it was taken'],
  ['copyright', 'only whose it is'],
  ['none', 'nothing'],
];

export const COLOUR_DETAIL: readonly [NonNullable<Order['subsampling']>, string][] = [
  ['444', 'every pixel its own'],
  ['422', 'one for two'],
  ['420', 'one for four'],
];

export const MASKS: readonly [MaskFormat | '', string][] = [
  ['', 'none'],
  ['png', 'PNG, 8 bit'],
  ['png16', 'PNG, 16 bit'],
  ['tiff', 'TIFF, 8 bit'],
  ['tiff16', 'TIFF, 16 bit'],
];

/** Where all of it goes. */
export const PLACES: readonly ['fetch' | 'folder', string][] = [
  ['fetch', 'files to fetch'],
  ['folder', 'a folder of the server'],
];

export const PROOFS: readonly [NonNullable<Order['proof']>[number], string][] = [
  ['page', 'page'],
  ['pdf', 'PDF'],
  ['json', 'JSON'],
  ['csv', 'CSV'],
];

/** What is wanted unless something else is said. */
export function aNewOrder(file_format: FileFormat): Order {
  return {
    file_format,
    space: 'keep',
    long_edge: null,
    megapixels: null,
    quality: null,
    subsampling: '444',
    limit_kb: null,
    about: 'all',
    names: '{name}-nubilis',
    masks: null,
    table: false,
    recipe: false,
    proof: [],
    folder: false,
  };
}

/** The spaces that a format can be in: JPEG XL names one by number. */
export function spacesOf(format: FileFormat): typeof SPACES {
  return format.startsWith('jxl') ? SPACES.filter(([space]) => space !== 'keep') : SPACES;
}

/** Formats whose quality can be told. */
export function hasQuality(format: FileFormat): boolean {
  return format === 'jpeg' || format.startsWith('avif');
}

/** What another format asks of the rest. */
export function withFormat(order: Order, file_format: FileFormat): Order {
  const quality = hasQuality(file_format) ? order.quality : null;
  const limit_kb = file_format === 'jpeg' ? order.limit_kb : null;
  const spaces = spacesOf(file_format).map(([space]) => space);
  const space = spaces.includes(order.space ?? 'keep') ? order.space : 'srgb';
  return { ...order, file_format, space, quality, limit_kb };
}

/** Whether pixels are written anew where no mask reaches. */
export function rewrites(order: Order): boolean {
  const size = (order.long_edge ?? null) !== null || (order.megapixels ?? null) !== null;
  return (order.space ?? 'keep') !== 'keep' || size;
}

/** Whether a photo comes to more than its own file. */
export function hasMore(order: Order): boolean {
  return !!(order.masks || order.table || order.recipe || order.proof?.length);
}
