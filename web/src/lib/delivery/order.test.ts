import { describe, expect, it } from 'vitest';
import { hasMore, rewrites, spacesOf, withFormat } from './order';
import type { Order } from '../api/types';

const wide = { file_format: 'png', space: 'rec2020', long_edge: 2000 } as Order;

describe('what is wanted of a file', () => {
  it('is in a standard space where the format knows no others', () => {
    const next = withFormat({ ...wide, space: 'keep' }, 'jxl16');
    expect([next.file_format, next.space, next.long_edge]).toEqual(['jxl16', 'srgb', 2000]);
    expect(withFormat(wide, 'jxl').space).toBe('rec2020');
    expect(withFormat({ ...wide, space: 'keep' }, 'avif').space).toBe('keep');
    expect(spacesOf('jxl').map(([space]) => space)).toEqual(['srgb', 'display-p3', 'rec2020']);
  });

  it('keeps a quality only where there is one to tell', () => {
    const small = { ...wide, file_format: 'jpeg', quality: 80, limit_kb: 500 } as Order;
    expect(withFormat(small, 'avif10')).toMatchObject({ quality: 80, limit_kb: null });
    expect(withFormat(small, 'tiff')).toMatchObject({ quality: null, limit_kb: null });
  });

  it('says when pixels are written anew, and when there are more files than one', () => {
    expect(rewrites({ file_format: 'png' } as Order)).toBe(false);
    expect(rewrites({ file_format: 'png', megapixels: 2 } as Order)).toBe(true);
    expect(hasMore({ file_format: 'png', proof: [] } as unknown as Order)).toBe(false);
    expect(hasMore({ file_format: 'png', proof: ['pdf'] } as Order)).toBe(true);
  });
});
