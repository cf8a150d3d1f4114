import type { FileFormat, FileWanted } from '../api/types';

export const FORMATS: readonly [FileFormat, string, string][] = [
  ['jpeg', 'JPEG', 'quality 95, every pixel its own colour'],
  ['png', 'PNG, 8 bit', 'without loss'],
  ['png16', 'PNG, 16 bit', 'without loss'],
  ['tiff', 'TIFF, 8 bit', 'without loss'],
  ['tiff16', 'TIFF, 16 bit', 'without loss, for more work elsewhere'],
  ['avif', 'AVIF', 'small, for the web'],
  ['jxl', 'JPEG XL, 8 bit', 'without loss, in sRGB'],
  ['jxl16', 'JPEG XL, 16 bit', 'without loss, in sRGB'],
];

export const SPACES: readonly [NonNullable<FileWanted['space']>, string][] = [
  ['keep', 'as it came'],
  ['srgb', 'sRGB'],
  ['display-p3', 'Display P3'],
  ['rec2020', 'Rec. 2020'],
];

/** JPEG XL is written in one space. */
export function needsSrgb(format: FileFormat): boolean {
  return format === 'jxl' || format === 'jxl16';
}

/** What another format asks of the rest. */
export function withFormat(wanted: FileWanted, file_format: FileFormat): FileWanted {
  return { ...wanted, file_format, space: needsSrgb(file_format) ? 'srgb' : wanted.space };
}
