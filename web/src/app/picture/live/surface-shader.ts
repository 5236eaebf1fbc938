// How a surface looks under the lamps and surroundings of a set, as near to the tracer as one pass over it allows. One program
// serves every finish: what a finish does not have is a weight of 0, so that nothing is compiled while one works.
//
// Lamps: what a matte surface gets from a sheet is Lambert's formula over its corners (Arvo, The Irradiance Jacobian for Partially
// Occluded Polyhedral Sources, 1994, after Lambert, Photometria, 1760). What a glossy one mirrors is the part of its lobe, taken for
// a bell about the mirrored view, that the sheet covers. Surroundings: nine harmonics, and levels blurred by such bells.

import { REFLECTION_BLURS } from '@zippy/core/optics';
import { mapChunk } from './map-shader';

export const MOST_LAMPS = 16;
export const MOST_SHADOWS = 2;
/** Openings that the sketch cuts out of the ground. */
export const MOST_CUTS = 4;

export const LAMP_SHEET = 0;
export const LAMP_TUBE = 1;
export const LAMP_BALL = 2;
export const LAMP_SPOT = 3;
export const LAMP_SUN = 4;

export const surfaceVertex = /* glsl */ `
  invariant gl_Position;
  varying vec3 place;
  varying vec3 way;
  varying vec2 coordinates;
  varying vec3 own;
  varying vec3 ownWay;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    place = world.xyz;
    // By the transpose of the way back, so that normals stay upright under any scale.
    mat3 m = mat3(modelMatrix);
    vec3 a = cross(m[1], m[2]), b = cross(m[2], m[0]), c = cross(m[0], m[1]);
    way = (a * normal.x + b * normal.y + c * normal.z) * sign(dot(m[0], a));
    coordinates = uv;
    own = position;
    ownWay = normal;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

const LEVELS = REFLECTION_BLURS.length;

/** Only how far away a surface is, to the last bit as `surfaceVertex` has it. */
export const depthVertex = /* glsl */ `
  invariant gl_Position;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

/** What surfaces and what stands behind share. */
export const surroundingsChunk = /* glsl */ `
  uniform highp sampler2DArray levels;
  uniform mat3 toSurroundings;
  uniform vec3 gain;
  uniform vec4 ground;      // 1 where there is one, half its edge, z of the wall that a sweep curves up to, half its height
  uniform vec3 groundLight; // radiance

  vec3 fromAround(vec3 direction, float level) {
    vec3 d = toSurroundings * direction;
    vec2 at = vec2(0.5 - atan(d.x, d.z) / 6.2831853, acos(clamp(d.y, -1.0, 1.0)) / 3.1415927);
    float low = floor(level);
    vec3 near = texture(levels, vec3(at, low)).rgb;
    vec3 far = texture(levels, vec3(at, min(low + 1.0, ${LEVELS - 1}.0))).rgb;
    return gain * mix(near, far, level - low);
  }`;

export const surfaceFragment = /* glsl */ `
  precision highp float;
  precision highp int;
  precision highp sampler2DArray;
  varying vec3 place;
  varying vec3 way;
  varying vec2 coordinates;

  // Finish
  uniform vec3 baseColor, specularColor, coatColor, fuzzColor, subsurfaceColor, emission;
  uniform float metalness, roughness, specular, ior, anisotropy, grain, coat, coatRoughness, fuzz, fuzzRoughness;
  uniform float subsurface, transmission, opacity, dim;

  // Set
  uniform vec3 harmonics[9];
  uniform int lampCount;
  uniform vec4 lampPlace[${MOST_LAMPS}];   // xyz, kind
  uniform vec4 lampX[${MOST_LAMPS}];       // half of its extent along its x, shadow map or -1
  uniform vec4 lampY[${MOST_LAMPS}];       // along its y, tangent of its grid or 0
  uniform vec3 lampLight[${MOST_LAMPS}];   // radiance
  uniform vec4 lampShape[${MOST_LAMPS}];   // cosine where a spot is dark, where it begins to fade; radius; area, of a sun solid angle
  uniform vec3 air;          // extinction of a mm, reach, 1 where there is any
  uniform vec3 airLight;
  uniform sampler2D shadowMap0, shadowMap1;
  uniform mat4 shadowMatrix[${MOST_SHADOWS}];
  uniform vec4 shadowSoft[${MOST_SHADOWS}]; // size of the lamp against its distance, bias, near, far
  uniform int shadowTaps;
  uniform bool quick;        // the light grade
  uniform float shade;       // how strong shadows are on what is seen behind

  const float PI = 3.14159265;

  ${surroundingsChunk}

  ${mapChunk}

  float levelOf(float blur) {
    ${REFLECTION_BLURS.slice(1)
      .map(
        (blur, k) =>
          `if (blur < ${blur.toFixed(3)}) return ${k}.0 + (blur - ${REFLECTION_BLURS[k]!.toFixed(3)}) / ${(blur - REFLECTION_BLURS[k]!).toFixed(3)};`,
      ) // prettier-ignore
      .join('\n    ')}
    return ${LEVELS - 1}.0;
  }

  vec3 skyOn(vec3 n) {
    return max(vec3(0.0), gain * (
      harmonics[0] * 0.282095 + harmonics[1] * 0.488603 * n.y + harmonics[2] * 0.488603 * n.z +
      harmonics[3] * 0.488603 * n.x + harmonics[4] * 1.092548 * n.x * n.y + harmonics[5] * 1.092548 * n.y * n.z +
      harmonics[6] * 0.315392 * (3.0 * n.z * n.z - 1.0) + harmonics[7] * 1.092548 * n.x * n.z +
      harmonics[8] * 0.546274 * (n.x * n.x - n.y * n.y)));
  }

  // What comes along a direction from surroundings, or from the floor that hides them.
  vec3 fromThere(vec3 from, vec3 direction, float blur) {
    vec3 light = fromAround(direction, levelOf(blur));
    if (ground.x < 0.5) return light;
    // Blurred as the reflection is, by how far below the horizon it points.
    float below = 1.0 - smoothstep(-2.0 * blur - 0.02, 2.0 * blur + 0.02, direction.y + from.y / ground.y);
    vec3 met = from + direction * (max(0.0, from.y) / max(0.02, -direction.y));
    below *= 1.0 - smoothstep(0.8, 1.2, max(abs(met.x), abs(met.z)) / ground.y);
    if (ground.w > 0.0) {
      float behind = smoothstep(-2.0 * blur - 0.05, 2.0 * blur + 0.05, -direction.z);
      vec3 wall = from + direction * ((ground.z - from.z) / min(-0.02, direction.z));
      behind *= 1.0 - smoothstep(0.7, 1.1, max(abs(wall.x) / ground.y, abs(wall.y) / (2.0 * ground.w)));
      below = max(below, behind);
    }
    return mix(light, groundLight, below);
  }

  vec3 aroundOn(vec3 n) {
    vec3 open = skyOn(n);
    if (ground.x < 0.5) return open;
    // The lower half of what is around is the floor.
    return open * (0.5 + 0.5 * n.y) + PI * groundLight * (0.5 - 0.5 * n.y);
  }

  // The part of a bell of deviation 1 between two places.
  float bell(float from, float to) {
    vec2 x = vec2(from, to);
    // 1 / (1 + exp(-1.702 x)) is within a hundredth of the bell's sum.
    vec2 s = 1.0 / (1.0 + exp(clamp(-1.702 * x, -30.0, 30.0)));
    return s.y - s.x;
  }

  float edge(vec3 a, vec3 b, vec3 n) {
    float c = clamp(dot(a, b), -0.99999, 0.99999);
    float angle = acos(c);
    vec3 across = cross(a, b);
    return angle * dot(across, n) / max(1e-6, sqrt(1.0 - c * c));
  }

  // Irradiance for each unit of radiance of a sheet whose corners are given from the place, as if none were below the surface.
  float sheetOn(vec3 center, vec3 x, vec3 y, vec3 n) {
    vec3 a = normalize(center - x - y), b = normalize(center + x - y);
    vec3 c = normalize(center + x + y), d = normalize(center - x + y);
    return max(0.0, 0.5 * (edge(a, b, n) + edge(b, c, n) + edge(c, d, n) + edge(d, a, n)));
  }

  // The part of a bell about a direction that a sheet covers. @param spread deviations along two axes across the direction
  float covered(vec3 center, vec3 x, vec3 y, vec3 r, vec2 spread, vec3 along) {
    float depth = dot(center, r);
    float size = max(length(x), length(y));
    if (depth <= -size) return 0.0;
    depth = max(depth, 0.15 * length(center));
    vec3 t = normalize(along - r * dot(along, r) + vec3(1e-5, 0.0, 0.0));
    vec3 s = cross(r, t);
    // In the plane across the direction, in deviations.
    mat2 axes = mat2(dot(x, t), dot(x, s), dot(y, t), dot(y, s)) / depth;
    vec2 offset = vec2(dot(center, t), dot(center, s)) / depth;
    axes[0] /= spread;
    axes[1] /= spread;
    offset /= spread;
    float lx = max(1e-4, length(axes[0])), ly = max(1e-4, length(axes[1]));
    float u = dot(offset, axes[0]) / lx, v = dot(offset, axes[1]) / ly;
    return bell(u - lx, u + lx) * bell(v - ly, v + ly);
  }

  float depthOf(int map, vec2 at) {
    return map == 0 ? texture2D(shadowMap0, at).r : texture2D(shadowMap1, at).r;
  }

  // How the depth of the surface itself changes across a shadow map, so that it casts no shadow on itself (Isidoro, Shadow Mapping, 2006).
  vec2 depthSlope(mat4 matrix, vec3 at, vec3 from, vec3 n, float step) {
    vec3 t = normalize(abs(n.y) < 0.9 ? cross(n, vec3(0.0, 1.0, 0.0)) : cross(n, vec3(1.0, 0.0, 0.0)));
    vec4 one = matrix * vec4(from + t * step, 1.0), other = matrix * vec4(from + cross(n, t) * step, 1.0);
    vec3 a = one.xyz / one.w * 0.5 + 0.5 - at, b = other.xyz / other.w * 0.5 + 0.5 - at;
    float area = a.x * b.y - a.y * b.x;
    if (abs(area) < 1e-12) return vec2(0.0);
    return clamp(vec2(b.y * a.z - a.y * b.z, a.x * b.z - b.x * a.z) / area, -8.0, 8.0);
  }

  // How much of a lamp with a shadow map is seen from here.
  float unshadowed(int map, vec3 n) {
    vec4 soft = map == 0 ? shadowSoft[0] : shadowSoft[1];
    vec4 seen = (map == 0 ? shadowMatrix[0] : shadowMatrix[1]) * vec4(place + n * soft.y, 1.0);
    vec3 at = seen.xyz / seen.w * 0.5 + 0.5;
    if (seen.w <= 0.0 || at.x < 0.0 || at.x > 1.0 || at.y < 0.0 || at.y > 1.0 || at.z > 1.0) return 1.0;
    float own = soft.z * soft.w / (soft.w - at.z * (soft.w - soft.z));
    vec2 slope = depthSlope(map == 0 ? shadowMatrix[0] : shadowMatrix[1], at, place + n * soft.y, n, soft.y);
    // What stands in the way decides how soft the shadow is (Fernando, Percentage-Closer Soft Shadows, 2005).
    float blockers = 0.0, blocked = 0.0;
    // Each pixel looks at other places, so that edges dissolve instead of coming out several times (Jimenez, 2014).
    float start = 6.2831853 * fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
    for (int k = 0; k < 10; k++) {
      if (k >= shadowTaps) break;
      float angle = start + float(k) * 2.399963, far = sqrt((float(k) + 0.5) / 10.0) * min(0.2, soft.x * 0.5);
      vec2 aside = far * vec2(cos(angle), sin(angle));
      float z = depthOf(map, at.xy + aside);
      if (z < at.z + dot(slope, aside) - 0.0004) {
        blockers += soft.z * soft.w / (soft.w - z * (soft.w - soft.z));
        blocked += 1.0;
      }
    }
    if (blocked < 0.5) return 1.0;
    float spread = clamp(0.5 * soft.x * (own * blocked / blockers - 1.0), 0.0008, 0.2);
    float light = 0.0;
    for (int k = 0; k < 24; k++) {
      if (k >= shadowTaps) break;
      float angle = start + float(k) * 2.399963, far = sqrt((float(k) + 0.5) / float(shadowTaps)) * spread;
      vec2 aside = far * vec2(cos(angle), sin(angle));
      light += step(at.z + dot(slope, aside) - 0.0004, depthOf(map, at.xy + aside));
    }
    return light / float(shadowTaps);
  }

  // What is reflected of light from everywhere (Lazarov, Getting More Physical in Call of Duty: Black Ops II, 2013).
  vec3 reflected(vec3 f0, float rough, float cosine) {
    vec4 r = rough * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
    float a = min(r.x * r.x, exp2(-9.28 * cosine)) * r.x + r.y;
    vec2 ab = vec2(-1.04, 1.04) * a + r.zw;
    return f0 * ab.x + ab.y;
  }

  // The light grade: lamps as points, one look at the surroundings, no films, coats, grain or floor mirrored.
  vec4 sketched(float there) {
    vec3 v = normalize(cameraPosition - place);
    vec3 n = normalize(way);
    if (dot(n, v) < 0.0) n = -n;
    #ifdef MAPPED
    n = raised(n);
    #endif
    vec3 base = baseHere;
    float roughness = roughHere, metalness = metalHere;
    vec3 matte = aroundOn(n);
    vec3 r = reflect(-v, n);
    float wide = max(0.02, 1.414 * roughness * roughness);
    vec3 shine = fromAround(r, floor(levelOf(wide) + 0.5));
    if (ground.x > 0.5) shine = mix(groundLight, shine, smoothstep(-0.3, 0.3, r.y));
    for (int k = 0; k < ${MOST_LAMPS}; k++) {
      if (k >= lampCount) break;
      int kind = int(lampPlace[k].w + 0.5);
      vec4 shape = lampShape[k];
      bool far = kind == ${LAMP_SUN};
      vec3 center = far ? lampPlace[k].xyz : lampPlace[k].xyz - place;
      float apart = dot(center, center);
      vec3 l = center * inversesqrt(apart);
      float leaves = 1.0;
      if (kind == ${LAMP_SHEET} || kind == ${LAMP_SPOT}) leaves = max(0.0, dot(normalize(cross(lampX[k].xyz, lampY[k].xyz)), -l));
      if (kind == ${LAMP_SPOT}) leaves *= smoothstep(shape.x, shape.y, leaves);
      float small = far ? shape.w : shape.w / (apart + shape.w);
      matte += lampLight[k] * small * leaves * max(0.0, dot(n, l));
      float size = small + 4.0 * wide * wide;
      shine += lampLight[k] * leaves * min(1.0, small / (6.0 * wide * wide + small)) * smoothstep(1.0 - size, 1.0, dot(r, l));
    }
    float f = (ior - 1.0) / (ior + 1.0);
    float rim = pow(1.0 - max(0.0, dot(n, v)), 5.0) * (1.0 - roughness);
    float mirror = min(1.0, f * f * specularHere + 0.5 * rim + 0.04 * coatHere);
    float clear = transmissionHere * (1.0 - metalness);
    vec3 body = mix(base, subsurfaceColorHere, subsurfaceHere) * (1.0 - mirror) * (1.0 - metalness) * (1.0 - clear);
    vec3 outgoing = matte * 0.31831 * body + shine * mix(vec3(mirror), base * specularHere, metalness) + emission * glowHere;
    float cover = 1.0 - clear * (1.0 - mirror);
    if (air.z > 0.5) {
      float passes = exp(-air.x * min(length(cameraPosition - place), air.y));
      outgoing = outgoing * passes + airLight * (1.0 - passes) * cover;
    }
    return vec4(min(outgoing, vec3(60000.0)), cover) * there * dim;
  }

  #ifdef CUTTABLE
  uniform mat4 cuts[${MOST_CUTS}];
  uniform bool cutsRound[${MOST_CUTS}];
  uniform int cutCount;
  bool isCut() {
    for (int k = 0; k < ${MOST_CUTS}; k++) {
      if (k >= cutCount) break;
      vec3 p = (cuts[k] * vec4(place, 1.0)).xyz;
      if (abs(p.y) <= 1.0 && (cutsRound[k] ? dot(p.xz, p.xz) <= 1.0 : max(abs(p.x), abs(p.z)) <= 1.0)) return true;
    }
    return false;
  }
  #endif

  void main() {
    #ifdef CUTTABLE
    if (isCut()) discard;
    #endif
    #ifdef SHADE_ALONE
    // The light grade draws no shadows.
    if (quick) {
      gl_FragColor = vec4(0.0);
      return;
    }
    #endif
    mapsHere(normalize(way), normalize(cameraPosition - place));
    float there = opacityHere;
    // Only where something may be missing: cards test depth before they shade, unless a program can cut holes.
    #ifdef CUT
    if (there < 0.02) discard;
    #endif
    if (quick) {
      gl_FragColor = sketched(there);
      return;
    }
    vec3 toEye = cameraPosition - place;
    float far = length(toEye);
    vec3 v = isOrthographic ? normalize(vec3(viewMatrix[0][2], viewMatrix[1][2], viewMatrix[2][2])) : toEye / far;
    vec3 flat_ = normalize(cross(dFdx(place), dFdy(place)));
    vec3 n = normalize(way);
    if (dot(n, n) < 0.5) n = flat_;
    if (dot(n, v) < 0.0) n = -n;
    // Directions in which the pictures' coordinates grow.
    vec3 px = dFdx(place), py = dFdy(place);
    vec2 ux = dFdx(coordinates), uy = dFdy(coordinates);
    float handed = ux.x * uy.y - uy.x * ux.y < 0.0 ? -1.0 : 1.0;
    vec3 tangent = handed * (px * uy.y - py * ux.y);
    if (dot(tangent, tangent) < 1e-16) tangent = vec3(n.z, 0.0, -n.x) + vec3(1e-4, 0.0, 0.0);
    tangent = normalize(tangent - n * dot(n, tangent));
    #ifdef MAPPED
    n = raised(n);
    // v grows against n × u where the coordinates are mirrored.
    vec3 across = dot(cross(n, tangent), handed * (py * ux.x - px * uy.x)) < 0.0 ? -cross(n, tangent) : cross(n, tangent);
    n = normalize(n * sqrt(max(0.01, 1.0 - dot(tiltHere, tiltHere))) + tangent * tiltHere.x + across * tiltHere.y);
    #endif
    vec3 base = baseHere;
    float rough = roughHere, metal = metalHere, coat = coatHere, coatRoughness = coatRoughHere, fuzz = fuzzHere;
    float cosine = clamp(dot(n, v), 0.02, 1.0);
    vec3 r = reflect(-v, n);
    // Half the angle between facets is the angle between what they mirror: a bell of 1.4 alpha peaks as high as the lobe.
    float alpha = max(0.0016, rough * rough);
    float wide = 1.414 * alpha;
    vec2 spread = vec2(wide);
    vec3 grainWay = cos(grain) * tangent + sin(grain) * cross(n, tangent);
    if (anisotropy > 0.0) {
      float aspect = 1.0 - anisotropy;
      float ax = alpha * sqrt(2.0 / (1.0 + aspect * aspect));
      spread = 1.414 * vec2(ax, max(0.0016, ax * aspect));
    }
    float coatWide = 1.414 * max(0.0016, coatRoughness * coatRoughness);
    // What the normal turns within a pixel blurs like roughness (Tokuyoshi and Kaplanyan, Improved Geometric Specular Antialiasing, 2019).
    vec3 nx = dFdx(n), ny = dFdy(n);
    float bend = min(0.3, dot(nx, nx) + dot(ny, ny));
    spread = sqrt(spread * spread + bend);
    wide = sqrt(wide * wide + bend);
    coatWide = sqrt(coatWide * coatWide + bend);

    vec3 matte = aroundOn(n);
    vec3 open = matte;
    vec3 shine = fromThere(place, r, wide);
    vec3 coatShine = coat > 0.0 ? fromThere(place, r, coatWide) : vec3(0.0);
    for (int k = 0; k < ${MOST_LAMPS}; k++) {
      if (k >= lampCount) break;
      vec3 center = lampPlace[k].xyz - place, x = lampX[k].xyz, y = lampY[k].xyz;
      int kind = int(lampPlace[k].w + 0.5);
      vec4 shape = lampShape[k];
      vec3 light = lampLight[k];
      float distance = length(center);
      vec3 l = center / distance;
      float on;
      if (kind == ${LAMP_SUN}) {
        center = lampPlace[k].xyz;
        l = normalize(center);
        on = PI * shape.z * shape.z * max(0.0, dot(n, l));
        vec3 a = normalize(cross(l, abs(l.y) < 0.9 ? vec3(0.0, 1.0, 0.0) : vec3(1.0, 0.0, 0.0)));
        center = l;
        x = a * shape.z * 0.886;
        y = cross(l, a) * shape.z * 0.886;
      } else if (kind == ${LAMP_BALL}) {
        on = PI * shape.z * shape.z / (distance * distance) * max(0.0, dot(n, l));
        vec3 a = normalize(cross(l, abs(l.y) < 0.9 ? vec3(0.0, 1.0, 0.0) : vec3(1.0, 0.0, 0.0)));
        x = a * shape.z * 0.886;
        y = cross(l, a) * shape.z * 0.886;
      } else if (kind == ${LAMP_TUBE}) {
        y = normalize(cross(x, l)) * shape.z;
        on = max(sheetOn(center, x, y, n), sheetOn(center, x, -y, n));
      } else {
        vec3 front = normalize(cross(x, y));
        float leaves = dot(front, -l);
        if (leaves <= 0.0) continue;
        if (kind == ${LAMP_SPOT}) {
          float fade = clamp((leaves - shape.x) / max(1e-4, shape.y - shape.x), 0.0, 1.0);
          light *= fade * fade * (3.0 - 2.0 * fade);
          float aslant = sqrt(max(0.0, 1.0 - leaves * leaves)) / leaves;
          if (lampY[k].w > 0.0) light *= max(0.0, 1.0 - aslant / lampY[k].w);
          on = PI * shape.z * shape.z * leaves / (distance * distance) * max(0.0, dot(n, l));
        } else {
          on = sheetOn(center, x, -y, n);
        }
      }
      if (light.r + light.g + light.b <= 0.0) continue;
      open += light * on;
      float seen = 1.0;
      int map = int(lampX[k].w);
      if (map >= 0 && shadowTaps > 0) seen = unshadowed(map, n);
      if (seen <= 0.0) continue;
      light *= seen;
      matte += light * on;
      shine += light * covered(center, x, y, r, spread, grainWay);
      if (coat > 0.0) coatShine += light * covered(center, x, y, r, vec2(coatWide), tangent);
    }
    #ifdef SHADE_ALONE
    // Darkness over what is seen behind: the part of the light that something is in the way of.
    gl_FragColor = vec4(0.0, 0.0, 0.0, shade * (1.0 - dot(matte, vec3(1.0)) / max(1e-6, dot(open, vec3(1.0)))));
    return;
    #endif
    float f = (ior - 1.0) / (ior + 1.0);
    float f0 = min(1.0, f * f * specularHere);
    float clear = transmissionHere * (1.0 - metal);
    vec3 dielectric = reflected(vec3(f0), rough, cosine) * specularColorHere;
    vec3 metallic = reflected(base, rough, cosine) * specularHere;
    vec3 body = mix(base, subsurfaceColorHere, subsurfaceHere) * (1.0 - dielectric) * (1.0 - metal) * (1.0 - clear);
    vec3 glossy = shine * mix(dielectric, metallic, metal);
    vec3 color = matte / PI * body;
    if (coat > 0.0) {
      vec3 top = coat * reflected(vec3(0.04), coatRoughness, cosine);
      vec3 tint = mix(vec3(1.0), coatColorHere, coat) * (1.0 - top);
      color *= tint;
      glossy = glossy * tint + coatShine * top;
    }
    if (fuzz > 0.0) {
      float rim = fuzz * pow(1.0 - cosine, mix(5.0, 1.5, fuzzRoughHere));
      color = color * (1.0 - rim) + matte / PI * fuzzColorHere * rim;
    }
    vec3 sent = emission * glowHere;
    // Glass keeps what it mirrors and lets what stands behind be seen; its colour has been laid over that by the stain.
    float cover = 1.0 - clear * (1.0 - max(dielectric.r, max(dielectric.g, dielectric.b)));
    vec3 outgoing = color + glossy + sent;
    if (air.z > 0.5) {
      float passes = exp(-air.x * min(far, air.y));
      outgoing = outgoing * passes + airLight * (1.0 - passes) * cover;
    }
    there *= dim;
    gl_FragColor = vec4(min(outgoing, vec3(60000.0)) * there, min(1.0, cover) * there);
  }`;

/** Colour that glass gives to what stands behind it: what is drawn there is multiplied by it. */
export const stainFragment = /* glsl */ `
  uniform vec3 stain;
  void main() {
    gl_FragColor = vec4(stain, 1.0);
  }`;
