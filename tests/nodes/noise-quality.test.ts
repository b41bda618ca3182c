import {
  BAND,
  DEPTHS,
  NOISES,
  SLICE,
  meanPower,
  sharesOf,
  slicesOf,
  spectrumOf,
} from '../../scripts/noise-quality';
import type { Spectrum } from '../../scripts/noise-quality';

/** How far power at a frequency stands out from that on both sides of it. */
function spikeAt(spectrum: Spectrum, frequency: number): number {
  const bin = spectrum.frequencies.findIndex((each) => each >= frequency - 1e-9);
  const around = [-4, -3, 3, 4].map((shift) => spectrum.power[bin + shift] ?? 0);
  return (
    Math.max(...[-1, 0, 1].map((shift) => spectrum.power[bin + shift] ?? 0)) /
    (around.reduce((sum, value) => sum + value, 0) / 4)
  );
}

describe('noise', () => {
  it.each(NOISES.map((kind) => [kind.title, kind] as const))(
    '%s has no grid, no favoured direction, and the mean and spread it is stated to have',
    (_title, kind) => {
      const slices = slicesOf(kind, DEPTHS.slice(0, 3));
      const spectrum = spectrumOf(meanPower(slices), BAND);
      expect(spectrum.anisotropy).toBeLessThan(0.2);
      // A lattice of cells would stand out at one cycle per feature and its multiples.
      for (const frequency of [0.5, 1, 2])
        if (frequency * 2 < SLICE.side / SLICE.features)
          expect(spikeAt(spectrum, frequency)).toBeLessThan(2);
      const shares = sharesOf(slices, 64);
      const mean = shares.reduce((sum, share, k) => sum + (share * (k + 0.5)) / 64, 0);
      expect(Math.abs(mean - 0.5)).toBeLessThan(0.04);
      const spread = Math.sqrt(
        shares.reduce((sum, share, k) => sum + share * ((k + 0.5) / 64 - mean) ** 2, 0),
      );
      expect(spread).toBeGreaterThan(0.1);
      expect(spread).toBeLessThan(0.25);
    },
  );
  it('the measure finds a grid where there is one', () => {
    const grid = Float32Array.from(
      { length: SLICE.side * SLICE.side },
      (_, k) =>
        ((Math.floor((k % SLICE.side) / 4) % 2) +
          (Math.floor(Math.floor(k / SLICE.side) / 4) % 2)) /
        2,
    );
    const spectrum = spectrumOf(meanPower([grid]), BAND);
    expect(spectrum.anisotropy).toBeGreaterThan(1);
    expect(spikeAt(spectrum, 0.5)).toBeGreaterThan(10);
  });
});
