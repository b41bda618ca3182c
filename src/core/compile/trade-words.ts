/**
 * Words of the trade for what nodes, their choices and ready chains do, beside their own names.
 * Each line: a node's id, or one with a choice (`id option=choice`), or a ready chain
 * (`ready:Name`), and what people call it.
 */
const LINES: readonly (readonly [target: string, words: string])[] = [
  ['colour.blend mode=multiply', 'multiply colours, darken over, shade with'],
  ['colour.blend mode=screen', 'screen, lighten over, negative multiply'],
  ['colour.blend mode=overlay', 'overlay, contrast blend'],
  ['colour.blend mode=softLight', 'soft light'],
  ['colour.blend mode=hardLight', 'hard light'],
  ['colour.blend mode=add', 'add colours, linear dodge, plus lighter, additive'],
  ['colour.blend mode=subtract', 'subtract colours'],
  ['colour.blend mode=difference', 'difference of colours, colour difference'],
  ['colour.blend mode=darken', 'darken only, darker of two'],
  ['colour.blend mode=lighten', 'lighten only, lighter of two'],
  ['colour.blend mode=dodge', 'dodge, colour dodge'],
  ['colour.blend mode=burn', 'burn, colour burn'],
  ['colour.blend mode=linearLight', 'linear light, detail overlay'],
  ['colour.blend mode=hue', 'hue blend, hue only'],
  ['colour.blend mode=saturation', 'saturation blend'],
  ['colour.blend mode=colour', 'colourise, colorize, tint over, recolour'],
  ['colour.blend mode=value', 'luminosity, luminosity blend, value blend'],
  ['colour.blend mode=normal', 'over, alpha over, composite over, paint over, lay over'],
  [
    'colour.correct',
    'rotate hue, hue shift, colour grading, grade, saturate, desaturate, vibrance, exposure, ' +
      'brightness contrast, secondary correction, selective colour, colour wheel, lift gamma gain',
  ],
  ['colour.encode direction=decode', 'linearise, srgb to linear, degamma, decode srgb'],
  ['colour.encode direction=encode', 'encode srgb, linear to srgb, gamma encode'],
  [
    'colour.to-grey',
    'monochrome, black and white, greyscale, grayscale, luminance, luma, desaturated',
  ],
  ['colour.to-grey method=average', 'average of channels'],
  ['colour.to-grey method=largest', 'brightest channel, max channel'],
  ['colour.to-grey method=red', 'red channel'],
  ['colour.to-grey method=green', 'green channel'],
  ['colour.to-grey method=blue', 'blue channel'],
  ['colour.split', 'separate rgb, split rgb, channels apart'],
  ['colour.pack', 'pack channels, merge rgb, combine rgb, channel packing'],
  ['colour.route', 'swizzle, channel mixer, shuffle channels, swap channels, reorder channels'],
  ['colour.replace', 'key, colour key, chroma key, swap colour, colour to mask, colour range'],
  ['colour.temperature', 'kelvin, white balance, warm, cool, blackbody, black body'],
  ['colour.hue-saturation-value', 'hsv, hsb, hue saturation'],
  ['colour.full-value', 'normalise colour, full brightness, albedo to colour'],
  ['constants.number', 'constant, float, scalar value'],
  ['constants.colour', 'solid colour, flat colour, uniform colour, swatch'],
  ['constants.vector', 'constant direction, constant vector'],
  ['coordinates.three-way', 'triplanar, tri planar, box mapping, cube mapping, box projection'],
  ['coordinates.three-way-blend', 'triplanar blend, triplanar weights'],
  ['patterns.three-way-image', 'triplanar texture, triplanar image, project image'],
  ['patterns.untiled-image', 'stochastic tiling, hide tiling, no repeat'],
  [
    'coordinates.transform',
    'tiling, repeat pattern, rotate pattern, scale pattern, offset, translate, uv transform, ' +
      'mapping',
  ],
  ['model.texture-coordinates', 'uv, uvs, uv set, uv map, st, texture space'],
  [
    'model.position',
    'world position, object position, xyz, elevation, altitude, height, height above',
  ],
  ['model.position space=bounds', 'bounding box, normalised position, relative height'],
  ['gradients.gradient', 'linear gradient, height fade, fade out'],
  ['gradients.gradient shape=spherical', 'radial gradient, spherical gradient, vignette'],
  ['gradients.gradient shape=angular', 'angular gradient, conical gradient, sweep'],
  ['gradients.gradient shape=mirrored', 'reflected gradient, there and back'],
  ['gradients.ramp', 'gradient map, colour ramp, colour map, stops, lookup, lut'],
  ['gradients.ramp layout=bands', 'equal bands, toon ramp, stepped ramp, flat bands'],
  ['gradients.palette', 'colour scheme, harmony, complementary, analogous, triad, swatches'],
  ['gradients.curve', 'tone curve, curves, remap curve, falloff curve'],
  [
    'gradients.row-sampler',
    'gradient from image, sample a row, colour strip, ramp texture, lookup strip',
  ],
  ['masks.union', 'or, merge masks, combine masks, add masks'],
  ['masks.union mode=largest', 'maximum of masks'],
  ['masks.intersect', 'and, overlap, both masks, common area'],
  ['masks.minus', 'subtract mask, cut out, knock out, mask out, except'],
  ['masks.exclude', 'xor, exclusive or, symmetric difference, even odd'],
  ['masks.nearest-of', 'smallest distance, closest of, minimum distance, sdf union'],
  ['masks.break-edge', 'ragged edge, rough up edge, torn edge, erode edge, edge noise, warp mask'],
  ['masks.height-blend', 'height mix, heightmap blend, depth blend, displacement blend'],
  ['math.math operation=add', 'add, plus, sum, offset value'],
  ['math.math operation=subtract', 'subtract, minus number, less by'],
  ['math.math operation=multiply', 'multiply, times, product, scale value, gain'],
  ['math.math operation=divide', 'ratio, quotient, over number'],
  ['math.math operation=power', 'pow, gamma of a value, exponentiate'],
  ['math.math operation=minimum', 'min, smaller of'],
  ['math.math operation=maximum', 'max, larger of'],
  ['math.math operation=smoothMinimum', 'smooth min, soft minimum, smooth union'],
  ['math.math operation=smoothMaximum', 'smooth max, soft maximum'],
  ['math.math operation=modulo', 'mod, remainder, wrap value'],
  ['math.math operation=average', 'mean of two'],
  ['math.math operation=multiplyAdd', 'mad, fma, scale and offset, scale and bias'],
  ['math.math operation=squareRoot', 'sqrt, root'],
  ['math.math operation=exponent', 'exp, e to the'],
  ['math.math operation=logarithm', 'log, ln'],
  ['math.math operation=absolute', 'abs, magnitude of a number, rectify'],
  ['math.math operation=sign', 'signum'],
  ['math.math operation=fraction', 'frac, fract, fractional part, sawtooth of a value'],
  ['math.math operation=floor', 'round down, integer part'],
  ['math.math operation=ceiling', 'ceil, round up'],
  ['math.math operation=round', 'nearest whole, quantise value'],
  ['math.math operation=sine', 'sin, wave of a value'],
  ['math.math operation=cosine', 'cos'],
  ['math.math operation=tangent', 'tan'],
  ['math.math operation=arcTangent', 'atan, atan2'],
  [
    'math.math operation=invert',
    'invert, one minus, complement, negative of a mask, flip, reverse mask',
  ],
  ['math.math operation=negate', 'negative, minus one times'],
  ['math.mix', 'lerp, linear interpolate, crossfade, blend values, mix values, fade between'],
  ['math.switch', 'if, choose between, select, branch, random pick, pick one of'],
  ['math.formula', 'expression, code, script, equation, custom function'],
  ['math.split', 'separate components, break vector, vector parts'],
  ['math.combine', 'make vector, merge xyz, append, combine components'],
  ['math.measure operation=dot', 'dot, dot product, cosine between'],
  ['math.measure operation=length', 'length of a vector, magnitude, norm'],
  ['math.measure operation=distance', 'distance between points, euclidean distance'],
  ['math.measure operation=angle', 'angle between, angle of vectors'],
  ['math.vector operation=cross', 'cross, cross product'],
  ['math.vector operation=normalise', 'normalise, normalize, unit vector'],
  ['math.vector operation=reflect', 'reflect, mirror direction, reflection vector'],
  ['math.vector operation=rotate', 'rotate vector, turn about axis, axis angle'],
  ['math.vector operation=project', 'project vector, along direction'],
  ['math.vector operation=flatten', 'project on plane, drop a part'],
  ['math.formula', 'vector add, add vectors, vector subtract, vector multiply'],
  ['math.is-wired', 'connected, has input, is connected, optional input'],
  ['model.attribute', 'vertex colour, vertex colours, primvar, custom attribute'],
  [
    'model.beacon',
    'locator, null, empty object, gizmo mask, sphere mask, box mask, region, helper',
  ],
  ['model.between', 'gap, distance between parts, contact gap'],
  ['model.crease-distance', 'sharp edges, hard edges, seams of facets, edge distance, bevel mask'],
  [
    'model.curvature',
    'edges, convexity, concavity, cavity, edge mask, edge detect, edge highlights, wear mask',
  ],
  ['model.facing-direction', 'direction mask, towards wind, sun side, rain side, from above'],
  [
    'model.light-response',
    'lambert, shading mask, n dot l, toon shading, lit mask, diffuse lighting',
  ],
  ['model.light-response shadows=thrown', 'shadow mask, cast shadow, in shade'],
  ['model.normal', 'world normal, normals, direction of surface'],
  [
    'model.occlusion',
    'ao, ambient occlusion, dirt, dirt mask, crevices, cavities, contact, sky visibility',
  ],
  ['model.part', 'object id, material id, part id, id map, per part, shell'],
  [
    'model.proximity',
    'distance field, touching, contact mask, near to, intersection mask, distance to object',
  ],
  [
    'model.random',
    'seed, random per object, random per part, vary per part, random value, jitter, ' +
      'variation, per instance',
  ],
  ['model.slope', 'steepness, incline, angle of surface, flat areas, inclination'],
  ['model.tangent', 'anisotropy direction, grain direction, brushed direction, flow'],
  ['model.thickness', 'thin areas, subsurface mask, translucency mask, wall thickness'],
  [
    'model.view-angle',
    'facing ratio, rim, rim light, edge of view, silhouette, falloff, grazing angle',
  ],
  ['optics.fresnel', 'reflectance curve, schlick, dielectric reflection'],
  ['optics.gloss', 'glossiness, smoothness, shininess, roughness from gloss, phong exponent'],
  [
    'optics.measured',
    'measured ior, physical values, metal presets, gold, silver, copper, diamond, water',
  ],
  ['optics.metal', 'conductor, n and k, complex ior, edge tint'],
  ['optics.reflectance', 'ior, f0, specular level, index of refraction, dielectric'],
  ['patterns.blocks', 'brick, bricks, masonry, tiles, planks, pavement, cobbles, wall'],
  ['patterns.cell-noise', 'voronoi, worley, cellular, cells, cracks, pebbles, scales, mosaic'],
  ['patterns.checks', 'checker, checkerboard, chessboard, squares'],
  ['patterns.distort', 'warp, domain warp, turbulence, displace pattern, wobble'],
  [
    'patterns.fractal-noise',
    'clouds, fbm, multi octave noise, grunge, dirt pattern, smoke, plaster',
  ],
  ['patterns.fractal-noise fold=ridged', 'ridged, ridges, veins, mountains'],
  ['patterns.fractal-noise fold=billow', 'billow, puffy, turbulent noise'],
  ['patterns.hatch', 'halftone, screentone, crosshatch, hatching, dots by tone'],
  ['patterns.hexagons', 'hex, honeycomb, hex tiles'],
  ['patterns.image', 'texture, bitmap, photo, picture, file, scan, decal'],
  ['patterns.image reading=data', 'raw, non colour data, linear image, data texture'],
  ['patterns.noise', 'perlin, simplex, gradient noise, random pattern, blotches'],
  ['patterns.ripples', 'waves, rings, water rings, concentric'],
  ['patterns.scratches', 'scuffs, hairlines, wear lines, brushed lines'],
  ['patterns.speckle', 'spots, splatter, flakes, freckles, dots, grains, droplets'],
  ['patterns.stripes', 'lines, bands pattern, bars, grooves'],
  ['patterns.stripes shape=triangle', 'triangle wave, zigzag'],
  ['patterns.stripes shape=square', 'square wave, pulse'],
  ['patterns.weave', 'fabric, cloth pattern, textile, canvas, linen, carbon fibre'],
  ['ranges.band', 'range mask, isolate range, bandpass, between two values, slice'],
  ['ranges.clamp', 'limit range, cap, clip values'],
  ['ranges.compare', 'greater than, less than, equals, comparison'],
  ['ranges.contrast', 'increase contrast, s curve, sigmoid'],
  [
    'ranges.levels',
    'histogram, black point, white point, in black, out white, midtones, auto levels',
  ],
  ['ranges.lift', 'bias, lift darks, raise blacks'],
  ['ranges.posterise', 'posterize, quantise, quantize, steps, terraces, cel steps'],
  ['ranges.remap', 'fit range, range mapping, rescale, change range, normalise range'],
  ['ranges.slide', 'shift value, offset value range, phase'],
  ['ranges.smoothstep', 'smooth threshold, soft threshold, ease, soft edge'],
  ['ranges.squeeze', 'narrow range, compress range'],
  [
    'ranges.stretch-to-range',
    'auto range, normalise values, auto contrast, fit to 0 1, expand range',
  ],
  ['ranges.threshold', 'step, binarise, cut off, hard mask, cutoff'],
  ['surface.blend-normals', 'combine normals, detail normal, reoriented normal, add normals'],
  ['surface.bump', 'height to normal, bump map, relief, emboss, normal from height'],
  ['surface.flat', 'unlit, toon, constant shader, shadeless, emission only'],
  [
    'surface.layer',
    'layer materials, stack, coat over, material blend, mask material, decal layer',
  ],
  ['surface.normal-map', 'tangent normal, normal texture, baked normal'],
  ['surface.surface', 'standard material, shader, pbr, metal roughness, physical material, output'],
  [
    'ready:Mask tightener',
    'window, position contrast, position and contrast, scan a mask, grow, shrink, dilate, erode',
  ],
  ['ready:Edge wear', 'worn edges, chipped edges, edge damage, scraped edges, paint chips'],
  ['ready:Crevice dirt', 'crevice dirt, cavity dirt, grime, soot in corners, dirt in corners'],
  ['ready:Top dust', 'dust, snow on top, moss on top, settled dust, from above mask'],
  ['ready:Slope pair', 'top and sides, slope mask, flats and walls'],
  ['ready:Region mask', 'area mask, region mask, painted region'],
  ['ready:Tone cut, two tones', 'two tone, cel shading, storybook shading, two tones'],
  ['ready:Tone cut, three tones', 'three tone, three tones'],
  ['ready:Tide line', 'waterline, tide, water mark, splash line, sediment line'],
  ['ready:Palette steps', 'colours per step, palette by value'],
  ['ready:Colour from height', 'height colours, elevation colours, depth tint, hypsometric'],
];

/** What a word of the trade stands for: a node, with a choice where one is meant, or a chain. */
export type TradeTarget =
  | { readonly node: string; readonly options: Readonly<Record<string, string>> }
  | { readonly ready: string };

function targetOf(text: string): TradeTarget {
  if (text.startsWith('ready:')) return { ready: text.slice('ready:'.length) };
  const [node = '', choice] = text.split(' ');
  const [option, value] = choice?.split('=') ?? [];
  return { node, options: option !== undefined && value !== undefined ? { [option]: value } : {} };
}

/** All words of the trade with what they stand for, in the order of the table. */
export const TRADE_WORDS: readonly { readonly word: string; readonly target: TradeTarget }[] =
  LINES.flatMap(([target, words]) =>
    words.split(',').map((word) => ({ word: word.trim(), target: targetOf(target) })),
  );

const normal = (text: string): string => text.trim().toLowerCase();

/** The ready chains that a word of the trade stands for, or begins. */
export const readyByTrade = (query: string): readonly string[] => {
  const wanted = normal(query);
  return [
    ...new Set(
      TRADE_WORDS.flatMap(({ word, target }) =>
        'ready' in target && wanted !== '' && word.startsWith(wanted) ? [target.ready] : [],
      ),
    ),
  ];
};

/** Whether a word of the trade stands for exactly this chain. */
export const isTradeNameOf = (query: string, ready: string): boolean =>
  TRADE_WORDS.some(
    ({ word, target }) => 'ready' in target && target.ready === ready && word === normal(query),
  );
