import { describe, expect, it } from 'vitest';
import { withFormat } from './wanted';

describe('what is wanted of a file', () => {
  it('is sRGB where the format knows nothing else', () => {
    const wide = { file_format: 'png', space: 'rec2020', long_edge: 2000 } as const;
    expect(withFormat(wide, 'jxl16')).toEqual({ ...wide, file_format: 'jxl16', space: 'srgb' });
    expect(withFormat(wide, 'avif').space).toBe('rec2020');
  });
});
