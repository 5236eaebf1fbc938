// Maps of a finish as the live picture draws them: the tracer's own records of layers, read from a texture of words, and the same
// formulas as kernel/assembly/map has them. What needs the edges of a mesh (wear) is not drawn here.

import * as L from '@zippy/kernel/layout';

/** Pictures that one finish can wear in the live picture. */
export const MOST_PICTURES = 6;
/** Texels of a layer's record, four words each. */
export const LAYER_TEXELS = L.MAP_SIZE / 16;
/** Shades that follow its record, one a texel. */
export const SHADE_TEXELS = 16;

const word = (offset: number) => `word(layer, ${offset / 4})`;
const real = (offset: number) => `real(layer, ${offset / 4})`;

/**
 * Declares `mapsHere(n, v)`, which makes the `…Here` variables of what the finish is at this place. Finishes without maps are drawn by a
 * program that knows none, and only those that need it have the noise: where a program draws, translating one takes seconds.
 */
export const mapChunk = /* glsl */ `
  vec3 baseHere, specularColorHere, coatColorHere, fuzzColorHere, subsurfaceColorHere, glowHere;
  float metalHere, roughHere, specularHere, coatHere, coatRoughHere, fuzzHere, fuzzRoughHere, subsurfaceHere, transmissionHere;
  float opacityHere, heightHere;
  vec2 tiltHere;

  #ifdef MAPPED
  uniform highp usampler2D mapLayers;
  uniform int layerCount;
  uniform sampler2D picture0, picture1, picture2, picture3, picture4, picture5;
  uniform highp uint partHash;
  varying vec3 own;
  varying vec3 ownWay;

  uint word(int layer, int at) {
    return texelFetch(mapLayers, ivec2(at >> 2, layer), 0)[at & 3];
  }
  float real(int layer, int at) {
    return uintBitsToFloat(word(layer, at));
  }

  uint mixed(uint x) {
    x ^= x >> 16u;
    x *= 0x21f0aaadu;
    x ^= x >> 15u;
    x *= 0xd35a2d97u;
    return x ^ (x >> 15u);
  }
  uint latticeHash(ivec3 cell, uint seed) {
    return mixed(uint(cell.x) * 0x8da6b343u + uint(cell.y) * 0xd8163841u + uint(cell.z) * 0xcb1ab31fu + seed * 0x9e3779b9u);
  }
  float unitOf(uint hash) {
    return float(hash >> 8u) * 5.9604645e-8;
  }

  #ifdef NOISY
  float alongEdge(uint hash, vec3 p) {
    uint h = hash >> 28u;
    float u = h < 8u ? p.x : p.y;
    float v = h < 4u ? p.y : h == 12u || h == 14u ? p.x : p.z;
    return ((h & 1u) == 0u ? u : -u) + ((h & 2u) == 0u ? v : -v);
  }
  float corner(uint pattern, ivec3 cell, ivec3 by, vec3 within, uint seed) {
    uint hash = latticeHash(cell + by, seed);
    return pattern == 0u ? unitOf(hash) : alongEdge(hash, within - vec3(by));
  }
  float grainOf(uint pattern, vec3 p, uint seed) {
    vec3 low = floor(p);
    ivec3 cell = ivec3(low);
    vec3 f = p - low;
    if (pattern < 2u) {
      vec3 w = f * f * f * (f * (f * 6.0 - 15.0) + 10.0);
      float row[4];
      for (int k = 0; k < 4; k++) {
        ivec3 by = ivec3(0, k & 1, k >> 1);
        row[k] = mix(corner(pattern, cell, by, f, seed), corner(pattern, cell, by + ivec3(1, 0, 0), f, seed), w.x);
      }
      float n = mix(mix(row[0], row[1], w.y), mix(row[2], row[3], w.y), w.z);
      return pattern == 0u ? n : clamp(0.5 + 0.6 * n, 0.0, 1.0);
    }
    float first = 8.0, second = 8.0;
    uint near = 0u;
    for (int k = 0; k < 27; k++) {
      ivec3 by = ivec3(k % 3, (k / 3) % 3, k / 9) - 1;
      uint hash = latticeHash(cell + by, seed);
      uint other = mixed(hash);
      vec3 d = vec3(by) + vec3(unitOf(hash), unitOf(other), unitOf(mixed(other))) - f;
      float apart = dot(d, d);
      if (apart < first) {
        second = first;
        first = apart;
        near = hash;
      } else if (apart < second) second = apart;
    }
    first = sqrt(first);
    if (pattern == 2u) return min(1.0, first);
    if (pattern == 3u) return min(1.0, sqrt(second) - first);
    return unitOf(mixed(near ^ 0x68bc21ebu));
  }
  float noiseAt(uint pattern, vec3 p, float width, int octaves, float fineness, uint seed) {
    float mean = pattern == 2u ? ${L.NOISE_CELLS_MEAN} : pattern == 3u ? ${L.NOISE_CRACKS_MEAN} : 0.5;
    p = vec3(dot(p, vec3(${L.NOISE_XX}, ${L.NOISE_XY}, ${L.NOISE_XZ})), dot(p, vec3(${L.NOISE_YX}, ${L.NOISE_YY}, ${L.NOISE_YZ})), dot(p, vec3(${L.NOISE_ZX}, ${L.NOISE_ZY}, ${L.NOISE_ZZ})));
    float sum = 0.0, all = 0.0, strength = 1.0, scale = 1.0;
    for (int k = 0; k < 8; k++) {
      if (k >= octaves) break;
      float seen = clamp(1.75 - width * scale, 0.0, 1.0);
      if (seen > 0.0) sum += strength * seen * (grainOf(pattern, p * scale, seed + uint(k) * 0x632be5abu) - mean);
      all += strength;
      strength *= fineness;
      scale *= 2.0;
    }
    return mean + sum / all;
  }

  #endif

  vec4 pictureAt(int which, vec2 at, vec2 dx, vec2 dy) {
    if (which == 0) return textureGrad(picture0, at, dx, dy);
    if (which == 1) return textureGrad(picture1, at, dx, dy);
    if (which == 2) return textureGrad(picture2, at, dx, dy);
    if (which == 3) return textureGrad(picture3, at, dx, dy);
    if (which == 4) return textureGrad(picture4, at, dx, dy);
    return textureGrad(picture5, at, dx, dy);
  }

  float tiled(float x, uint tiling) {
    if (tiling == ${L.TILING_ONCE}u) return x < 0.0 || x > 1.0 ? -1.0 : x;
    if (tiling == ${L.TILING_MIRROR}u) {
      float t = x - 2.0 * floor(x * 0.5);
      return t > 1.0 ? 2.0 - t : t;
    }
    if (tiling == ${L.TILING_REPEAT}u) return fract(x);
    return clamp(x, 0.0, 1.0);
  }

  // Reads a source where it is laid on. @param laid in pictures @param width mm that a pixel covers
  vec4 readLaid(int layer, uint kind, vec3 laid, float width) {
    uint tiling = ${word(L.MAP_TILING)};
    vec3 extent = vec3(${real(L.MAP_EXTENT)}, ${real(L.MAP_EXTENT + 4)}, ${real(L.MAP_EXTENT + 8)});
    if (kind == ${L.SOURCE_PICTURE}u) {
      int which = int(${word(L.MAP_DATA)}) - 1;
      if (which < 0) return vec4(0.0);
      vec2 dx = dFdx(laid.xy), dy = dFdy(laid.xy);
      if (tiling == ${L.TILING_REPEAT}u) return pictureAt(which, laid.xy, dx, dy);
      vec2 at = vec2(tiled(laid.x, tiling), tiled(laid.y, tiling));
      if (at.x < 0.0 || at.y < 0.0) return vec4(0.0);
      return pictureAt(which, at, dx, dy);
    }
    int p = ${L.MAP_PARAMETERS / 4};
    if (kind == ${L.SOURCE_GRADIENT}u) {
      uint shape = uint(real(layer, p));
      vec3 m = vec3(2.0, -2.0, 2.0) * (laid - 0.5);
      float t = shape == 0u ? laid.x : shape == 1u ? length(m.xy) : shape == 2u ? length(m) : 0.5 + atan(m.y, m.x) / 6.2831853;
      t = tiled(t, tiling);
      return vec4(vec3(max(0.0, t)), t < 0.0 ? 0.0 : 1.0);
    }
    #ifdef NOISY
    vec3 fine = vec3(real(layer, p + 1), real(layer, p + 2), real(layer, p + 3));
    return vec4(vec3(noiseAt(uint(real(layer, p)), vec3(1.0, -1.0, 1.0) * (laid - 0.5) * extent * fine,
      width * max(fine.x, max(fine.y, fine.z)), int(real(layer, p + 4)), real(layer, p + 5), uint(real(layer, p + 6)))), 1.0);
    #else
    return vec4(0.0);
    #endif
  }

  vec3 placed(int layer, vec2 at, float through) {
    int m = ${L.MAP_MATRIX / 4};
    return vec3(real(layer, m) * at.x + real(layer, m + 1) * at.y + real(layer, m + 2),
      real(layer, m + 3) * at.x + real(layer, m + 4) * at.y + real(layer, m + 5), through);
  }

  vec4 sourceAt(int layer, vec3 n, vec3 v, float pixel) {
    uint kind = ${word(L.MAP_KIND)};
    if (kind == ${L.SOURCE_WEAR}u) return vec4(0.0, 0.0, 0.0, 1.0);
    if (kind == ${L.SOURCE_FACING}u) return vec4(vec3(min(1.0, abs(dot(n, v)))), 1.0);
    if (kind == ${L.SOURCE_PART}u)
      return vec4(vec3(unitOf(latticeHash(ivec3(int(partHash), 0, 0), uint(${real(L.MAP_PARAMETERS)})))), 1.0);
    uint projection = ${word(L.MAP_PROJECTION)};
    vec3 extent = vec3(${real(L.MAP_EXTENT)}, ${real(L.MAP_EXTENT + 4)}, ${real(L.MAP_EXTENT + 8)});
    if (projection == ${L.PROJECTION_COORDINATES}u)
      return readLaid(layer, kind, placed(layer, coordinates, 0.0), length(dFdx(coordinates)) * extent.x);
    bool world = (${word(L.MAP_FLAGS)} & ${L.MAP_IN_WORLD}u) != 0u;
    vec4 from = vec4(world ? place : own, 1.0);
    int m = ${L.MAP_PLACE / 4};
    vec4 rx = vec4(real(layer, m), real(layer, m + 1), real(layer, m + 2), real(layer, m + 3));
    vec4 ry = vec4(real(layer, m + 4), real(layer, m + 5), real(layer, m + 6), real(layer, m + 7));
    vec4 rz = vec4(real(layer, m + 8), real(layer, m + 9), real(layer, m + 10), real(layer, m + 11));
    vec3 f = vec3(dot(rx, from), dot(ry, from), dot(rz, from));
    if (projection == ${L.PROJECTION_CAMERA}u) {
      float away = max(1e-6, f.z);
      return readLaid(layer, kind, placed(layer, vec2(0.5 + f.x / away, 0.5 - f.y / away), 0.0), pixel);
    }
    vec3 facing = normalize(world ? way : ownWay);
    vec3 side = vec3(dot(rx.xyz, facing), dot(ry.xyz, facing), dot(rz.xyz, facing));
    bool round = projection == ${L.PROJECTION_CYLINDRICAL}u || projection == ${L.PROJECTION_WRAPPED}u;
    if ((${word(L.MAP_FLAGS)} & ${L.MAP_ONE_SIDED}u) != 0u) {
      if (projection == ${L.PROJECTION_PLANAR}u && side.z <= 0.0) return vec4(0.0);
      if (round && dot(side.xz, f.xz) <= 0.0) return vec4(0.0);
      if (projection == ${L.PROJECTION_SPHERICAL}u && dot(side, f) <= 0.0) return vec4(0.0);
    }
    if (projection == ${L.PROJECTION_PLANAR}u && ${word(L.MAP_TILING)} == ${L.TILING_ONCE}u && abs(f.z / extent.z) > 0.5)
      return vec4(0.0);
    if (projection == ${L.PROJECTION_WRAPPED}u)
      return readLaid(layer, kind, placed(layer, vec2(0.5 + atan(f.x, f.z) * length(f.xz) / extent.x, 0.5 - f.y / extent.y), 0.5), pixel);
    if (projection == ${L.PROJECTION_BOX}u) {
      vec3 far = abs(side);
      float soft = max(1e-3, ${real(L.MAP_SOFTNESS)});
      vec3 w = max(vec3(0.0), 1.0 - (max(far.x, max(far.y, far.z)) - far) / soft);
      w /= w.x + w.y + w.z;
      vec3 s = vec3(side.x < 0.0 ? -1.0 : 1.0, side.y < 0.0 ? -1.0 : 1.0, side.z < 0.0 ? -1.0 : 1.0);
      vec4 all = vec4(0.0);
      for (int k = 0; k < 3; k++) {
        if (w[k] <= 0.0) continue;
        float across = k == 0 ? -s.x * f.z : k == 1 ? f.x : s.z * f.x;
        float up = k == 1 ? -s.y * f.z : f.y;
        all += w[k] * readLaid(layer, kind, placed(layer, vec2(0.5 + across / extent.x, 0.5 - up / extent.y), 0.0), pixel);
      }
      return all;
    }
    if (projection == ${L.PROJECTION_CYLINDRICAL}u || projection == ${L.PROJECTION_SPHERICAL}u) {
      float round = length(f.xz);
      float v1 = projection == ${L.PROJECTION_CYLINDRICAL}u
        ? 0.5 - f.y / extent.y
        : acos(clamp(f.y / max(1e-6, length(f)), -1.0, 1.0)) / 3.14159265;
      return readLaid(layer, kind, placed(layer, vec2(0.5 + atan(f.x, f.z) / 6.2831853, v1), 0.5 + round / extent.z), pixel);
    }
    return readLaid(layer, kind, placed(layer, vec2(0.5 + f.x / extent.x, 0.5 - f.y / extent.y), 0.5 + f.z / extent.z), pixel);
  }

  float brightness(vec3 c) {
    return dot(c, vec3(0.2126, 0.7152, 0.0722));
  }
  float ranged(int layer, float value) {
    float t = clamp((value - ${real(L.MAP_DARK)}) * ${real(L.MAP_CONTRAST)}, 0.0, 1.0);
    return t <= 0.0 ? 0.0 : pow(t, ${real(L.MAP_CURVE)});
  }
  vec3 climb(int layer, int stops, float t) {
    int at = 0, next = 0;
    for (int k = 0; k < ${SHADE_TEXELS}; k++) {
      if (k >= stops) break;
      next = k;
      if (real(layer, ${L.MAP_SIZE / 4} + 4 * k) > t) break;
      at = k;
    }
    vec4 a = uintBitsToFloat(texelFetch(mapLayers, ivec2(${LAYER_TEXELS} + at, layer), 0));
    vec4 b = uintBitsToFloat(texelFetch(mapLayers, ivec2(${LAYER_TEXELS} + next, layer), 0));
    return mix(a.yzw, b.yzw, b.x > a.x ? clamp((t - a.x) / (b.x - a.x), 0.0, 1.0) : 0.0);
  }

  vec3 blended(int layer, vec3 below, vec3 plain, vec3 value, float amount) {
    uint kind = ${word(L.MAP_BLEND)};
    if (kind == ${L.BLEND_MULTIPLY}u) return below * (1.0 + amount * (value - 1.0));
    float worth = ${real(L.MAP_WORTH)};
    vec3 self = value * worth;
    vec3 result;
    if (kind == ${L.BLEND_OVER}u) result = mix(below, self, amount);
    else if (kind == ${L.BLEND_ADD}u) result = below + amount * self;
    else if (kind == ${L.BLEND_DIFFERENCE}u) result = below + amount * (abs(below - self) - below);
    else if (kind == ${L.BLEND_MASK}u) result = plain + (below - plain) * (1.0 + amount * (value - 1.0));
    else result = below + amount * self * (1.0 - below / max(1e-20, worth));
    return (${word(L.MAP_FLAGS)} & ${L.MAP_BOUNDED}u) != 0u ? clamp(result, 0.0, 1.0) : result;
  }
  float blended(int layer, float below, float plain, float value, float amount) {
    return blended(layer, vec3(below), vec3(plain), vec3(value), amount).x;
  }
  #endif

  void mapsHere(vec3 n, vec3 v) {
    baseHere = baseColor;
    specularColorHere = specularColor;
    coatColorHere = coatColor;
    fuzzColorHere = fuzzColor;
    subsurfaceColorHere = subsurfaceColor;
    glowHere = vec3(1.0);
    metalHere = metalness;
    roughHere = roughness;
    specularHere = specular;
    coatHere = coat;
    coatRoughHere = coatRoughness;
    fuzzHere = fuzz;
    fuzzRoughHere = fuzzRoughness;
    subsurfaceHere = subsurface;
    transmissionHere = transmission;
    opacityHere = opacity;
    heightHere = 0.0;
    tiltHere = vec2(0.0);
    #ifdef MAPPED
    float pixel = 0.7 * (length(dFdx(place)) + length(dFdy(place)));
    for (int layer = 0; layer < layerCount; layer++) {
      vec4 read = sourceAt(layer, n, v, pixel);
      uint target = ${word(L.MAP_TARGET)};
      uint flags = ${word(L.MAP_FLAGS)};
      float amount = ${real(L.MAP_STRENGTH)};
      if (target == ${L.FINISH_NORMAL}u) {
        // A tilt along the picture's rows and columns is one along the coordinates by the transpose of the matrix.
        vec2 tilt = amount * vec2(read.x * 2.0 - 1.0, 1.0 - read.y * 2.0);
        int m = ${L.MAP_MATRIX / 4};
        vec2 alongU = vec2(real(layer, m), real(layer, m + 3)), alongV = vec2(real(layer, m + 1), real(layer, m + 4));
        tiltHere += vec2(dot(alongU, tilt) / max(1e-10, length(alongU)), dot(alongV, tilt) / max(1e-10, length(alongV)));
        continue;
      }
      bool colored = ${word(L.MAP_COMPONENTS)} == 3u;
      uint which = ${word(L.MAP_CHANNEL)};
      float single = which == 4u ? brightness(read.rgb) : read[int(which)];
      if (${word(L.MAP_BLEND)} != ${L.BLEND_MULTIPLY}u && (colored || which != 3u)) amount *= read.a;
      vec3 value = colored ? read.rgb : vec3(single);
      float t = colored ? brightness(read.rgb) : single;
      if ((flags & ${L.MAP_REMAPPED}u) != 0u) {
        t = ranged(layer, t);
        float low = ${real(L.MAP_LOW)}, span = ${real(L.MAP_HIGH)} - low;
        int stops = int(${word(L.MAP_SHADE_COUNT)});
        if (colored && stops > 0) value = climb(layer, stops, t);
        else value = low + span * vec3(ranged(layer, value.r), ranged(layer, value.g), ranged(layer, value.b));
      }
      if ((flags & ${L.MAP_SELF_MASKED}u) != 0u) amount *= clamp(t, 0.0, 1.0);
      float one = value.r;
      if (target == ${L.FINISH_BASE}u) baseHere = blended(layer, baseHere, baseColor, value, amount);
      else if (target == ${L.FINISH_ROUGHNESS}u) roughHere = blended(layer, roughHere, roughness, one, amount);
      else if (target == ${L.FINISH_METALNESS}u) metalHere = blended(layer, metalHere, metalness, one, amount);
      else if (target == ${L.FINISH_OPACITY}u) opacityHere = blended(layer, opacityHere, opacity, one, amount);
      else if (target == ${L.FINISH_EMISSION}u) glowHere = blended(layer, glowHere, vec3(1.0), value, amount);
      else if (target == ${L.FINISH_HEIGHT}u) heightHere = blended(layer, heightHere, 0.0, one, amount);
      else if (target == ${L.FINISH_SPECULAR}u) specularHere = blended(layer, specularHere, specular, one, amount);
      else if (target == ${L.FINISH_SPECULAR_COLOR}u) specularColorHere = blended(layer, specularColorHere, specularColor, value, amount);
      else if (target == ${L.FINISH_COAT}u) coatHere = blended(layer, coatHere, coat, one, amount);
      else if (target == ${L.FINISH_COAT_ROUGHNESS}u) coatRoughHere = blended(layer, coatRoughHere, coatRoughness, one, amount);
      else if (target == ${L.FINISH_COAT_COLOR}u) coatColorHere = blended(layer, coatColorHere, coatColor, value, amount);
      else if (target == ${L.FINISH_FUZZ}u) fuzzHere = blended(layer, fuzzHere, fuzz, one, amount);
      else if (target == ${L.FINISH_FUZZ_COLOR}u) fuzzColorHere = blended(layer, fuzzColorHere, fuzzColor, value, amount);
      else if (target == ${L.FINISH_FUZZ_ROUGHNESS}u) fuzzRoughHere = blended(layer, fuzzRoughHere, fuzzRoughness, one, amount);
      else if (target == ${L.FINISH_SUBSURFACE}u) subsurfaceHere = blended(layer, subsurfaceHere, subsurface, one, amount);
      else if (target == ${L.FINISH_SUBSURFACE_COLOR}u) subsurfaceColorHere = blended(layer, subsurfaceColorHere, subsurfaceColor, value, amount);
      else if (target == ${L.FINISH_TRANSMISSION}u) transmissionHere = blended(layer, transmissionHere, transmission, one, amount);
    }
    #endif
  }

  #ifdef MAPPED
  // The normal of a relief (Mikkelsen, Bump Mapping Unparametrized Surfaces on the GPU, 2010).
  vec3 raised(vec3 n) {
    vec3 px = dFdx(place), py = dFdy(place);
    vec3 a = cross(py, n), b = cross(n, px);
    float det = dot(px, a);
    vec3 slope = sign(det) * (dFdx(heightHere) * a + dFdy(heightHere) * b);
    return normalize(abs(det) * n - slope);
  }
  #endif`;
