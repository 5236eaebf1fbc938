// Reference: a minimal path tracer over Embree's single rays, one thread: the kernel's glossy base (a rough dielectric layer over
// diffuse, joined by directional albedo) on blended normals, one panel and even surroundings, one light sample a vertex with
// multiple importance sampling, the kernel's depth and roulette. Reads triangles (9 floats each), their normals (9 each) and the
// scene (see paths.ts); prints seconds and the mean of the film.
#include "embreeScene.h"
#include <chrono>
#include <cmath>
#include <cstdint>

struct V {
  float x, y, z;
};
static inline V operator+(V a, V b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
static inline V operator-(V a, V b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
static inline V operator*(V a, float s) { return {a.x * s, a.y * s, a.z * s}; }
static inline V operator*(V a, V b) { return {a.x * b.x, a.y * b.y, a.z * b.z}; }
static inline float dot(V a, V b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
static inline V cross(V a, V b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
static inline V unit(V a) { return a * (1 / sqrtf(dot(a, a))); }

static uint64_t state = 1;
static inline float draw() {
  state = state * 6364136223846793005ull + 1442695040888963407ull;
  uint32_t x = ((state >> 18) ^ state) >> 27, r = state >> 59;
  return (((x >> r) | (x << ((-r) & 31))) >> 8) * (1.0f / 16777216);
}

static const float PI = 3.14159265f;
static float albedo, alpha, index_;

static inline float fresnel(float c) {
  float g2 = index_ * index_ - 1 + c * c, g = sqrtf(g2);
  float a = (g - c) / (g + c), b = (c * (g + c) - 1) / (c * (g - c) + 1);
  return 0.5f * a * a * (1 + b * b);
}
static inline float lambda(V w) { return 0.5f * (sqrtf(1 + alpha * alpha * (w.x * w.x + w.y * w.y) / (w.z * w.z)) - 1); }
static inline float spread(V h) {
  float t = (h.x * h.x + h.y * h.y) / (alpha * alpha) + h.z * h.z;
  return 1 / (PI * alpha * alpha * t * t);
}

/** A microfacet normal visible from `wo` (Heitz, Sampling the GGX Distribution of Visible Normals, 2018). */
static inline V visibleNormal(V wo, float u, float v) {
  V h = unit({alpha * wo.x, alpha * wo.y, wo.z});
  float l = h.x * h.x + h.y * h.y;
  V t1 = l > 0 ? V{-h.y, h.x, 0} * (1 / sqrtf(l)) : V{1, 0, 0}, t2 = cross(h, t1);
  float r = sqrtf(u), phi = 2 * PI * v, p1 = r * cosf(phi), p2 = r * sinf(phi), q = 0.5f * (1 + h.z);
  p2 = (1 - q) * sqrtf(1 - p1 * p1) + q * p2;
  V m = t1 * p1 + t2 * p2 + h * sqrtf(fmaxf(0, 1 - p1 * p1 - p2 * p2));
  return unit({alpha * m.x, alpha * m.y, fmaxf(0, m.z)});
}

static const int STEPS = 64;
/** What the layer reflects of light under a cosine, from 0 to 1, and the cosine-weighted mean. */
static float table[STEPS + 1], mean_ = 0;
static void fillTable() {
  for (int k = 0; k <= STEPS; k++) {
    float c = fmaxf(0.01f, float(k) / STEPS), sum = 0;
    V wo = {sqrtf(fmaxf(0, 1 - c * c)), 0, c};
    for (int j = 0; j < 4096; j++) {
      V m = visibleNormal(wo, (j + 0.5f) / 4096, fmodf(j * 0.61803398875f, 1));
      V wi = m * (2 * dot(wo, m)) - wo;
      if (wi.z > 0) sum += fresnel(dot(wo, m)) * (1 + lambda(wo)) / (1 + lambda(wo) + lambda(wi));
    }
    table[k] = sum / 4096;
  }
  for (int k = 0; k < STEPS; k++) mean_ += (k + 0.5f) / STEPS * (table[k] + table[k + 1]) / STEPS;
}
static inline float layer(float c) {
  float x = fminf(c, 0.999999f) * STEPS;
  int k = x;
  return table[k] + (x - k) * (table[k + 1] - table[k]);
}

/** Scattering times cosine, and its density. */
static inline float evaluate(V wo, V wi, float specular, float& pdf) {
  pdf = 0;
  if (wi.z <= 0 || wo.z <= 0) return 0;
  V h = unit(wo + wi);
  float lo = lambda(wo), f = fresnel(dot(wo, h)), d = spread(h);
  float value = f * d / (4 * wo.z * (1 + lo + lambda(wi))) + (1 - layer(wo.z)) * (1 - layer(wi.z)) / (1 - mean_) * albedo / PI * wi.z;
  pdf = specular * d / ((1 + lo) * 4 * wo.z) + (1 - specular) * wi.z / PI;
  return value;
}

int main(int, char** argv) {
  auto triangles = read(argv[1]);
  auto normals = read(argv[2]);
  auto s = read(argv[3]);
  RTCDevice device = rtcNewDevice("threads=1");
  RTCScene scene = buildScene(device, triangles);

  int width = s[0], height = s[1], samples = s[2], depth = s[3];
  V eye = {s[4], s[5], s[6]}, right = {s[7], s[8], s[9]}, up = {s[10], s[11], s[12]}, forward = {s[13], s[14], s[15]};
  float tanX = s[16], tanY = s[17];
  V lamp = {s[18], s[19], s[20]}, lampU = {s[21], s[22], s[23]}, lampV = {s[24], s[25], s[26]}, shine = {s[27], s[28], s[29]};
  V sky = {s[30], s[31], s[32]};
  albedo = s[33], alpha = s[34] * s[34], index_ = s[35];
  fillTable();
  float lampArea = 4 * sqrtf(dot(lampU, lampU) * dot(lampV, lampV));
  V lampNormal = unit(cross(lampU, lampV));
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  std::vector<V> film(width * height);
  auto began = std::chrono::steady_clock::now();
  for (int pixel = 0; pixel < width * height; pixel++) {
    V sum = {0, 0, 0};
    for (int k = 0; k < samples; k++) {
      float x = 2 * ((pixel % width + draw()) / width) - 1, y = 1 - 2 * ((pixel / width + draw()) / height);
      V o = eye, d = unit(forward + right * (x * tanX) + up * (y * tanY));
      V through = {1, 1, 1};
      float density = -1;
      for (int bounce = 0;; bounce++) {
        RTCRayHit hit;
        hit.ray = {o.x, o.y, o.z, 0, d.x, d.y, d.z, 0, 1e9f, 0xffffffffu, 0, 0};
        hit.hit.geomID = RTC_INVALID_GEOMETRY_ID;
        hit.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
        rtcIntersect1(scene, &context, &hit);
        float facing = -dot(d, lampNormal), t = facing > 0 ? dot(lamp - o, lampNormal) / -facing : -1;
        if (t > 0 && t < hit.ray.tfar) {
          V at = o + d * t - lamp;
          if (fabsf(dot(at, lampU)) < dot(lampU, lampU) && fabsf(dot(at, lampV)) < dot(lampV, lampV)) {
            float other = 0.5f * t * t / (facing * lampArea), w = density < 0 ? 1 : density / (density + other);
            sum = sum + through * shine * w;
            break;
          }
        }
        if (hit.hit.geomID == RTC_INVALID_GEOMETRY_ID) {
          float other = 0.5f / (4 * PI), w = density < 0 ? 1 : density / (density + other);
          sum = sum + through * sky * w;
          break;
        }
        if (bounce >= depth) break;
        V p = o + d * hit.ray.tfar, flat = unit({hit.hit.Ng_x, hit.hit.Ng_y, hit.hit.Ng_z});
        if (dot(flat, d) > 0) flat = flat * -1;
        const V* n = (const V*)&normals[hit.hit.primID * 9];
        V normal = unit(n[0] * (1 - hit.hit.u - hit.hit.v) + n[1] * hit.hit.u + n[2] * hit.hit.v);
        if (dot(normal, flat) < 0) normal = normal * -1;
        if (-dot(normal, d) < 0.01f) normal = flat;
        float eps = 5e-4f + 1.5e-6f * fmaxf(fabsf(p.x), fmaxf(fabsf(p.y), fabsf(p.z)));
        o = p + flat * eps;
        float sign = copysignf(1, normal.z), a = -1 / (sign + normal.z), b = normal.x * normal.y * a;
        V tx = {1 + sign * normal.x * normal.x * a, sign * b, -sign * normal.x}, ty = {b, sign + normal.y * normal.y * a, -normal.y};
        V wo = {-dot(d, tx), -dot(d, ty), -dot(d, normal)};
        float f = layer(wo.z), specular = f / (f + (1 - f) * albedo);
        // One light, chosen evenly from the two.
        V towards, light;
        float distance, chance;
        if (draw() < 0.5f) {
          V to = lamp + lampU * (2 * draw() - 1) + lampV * (2 * draw() - 1) - o;
          distance = sqrtf(dot(to, to));
          towards = to * (1 / distance);
          float c = -dot(towards, lampNormal);
          light = c > 0 ? shine : V{0, 0, 0};
          chance = c > 0 ? 0.5f * distance * distance / (c * lampArea) : 1;
          distance *= 0.9999f;
        } else {
          float z = 2 * draw() - 1, r = sqrtf(fmaxf(0, 1 - z * z)), phi = 2 * PI * draw();
          towards = {r * cosf(phi), z, r * sinf(phi)};
          light = sky;
          chance = 0.5f / (4 * PI);
          distance = 1e9f;
        }
        V wi = {dot(towards, tx), dot(towards, ty), dot(towards, normal)};
        float pdf, value = evaluate(wo, wi, specular, pdf);
        if (value > 0 && light.x > 0 && dot(towards, flat) > 0) {
          RTCRay shadow = {o.x, o.y, o.z, 0, towards.x, towards.y, towards.z, 0, distance, 0xffffffffu, 0, 0};
          rtcOccluded1(scene, &context, &shadow);
          if (shadow.tfar > 0) sum = sum + through * light * (value / (chance + pdf));
        }
        if (draw() < specular) {
          V m = visibleNormal(wo, draw(), draw());
          wi = m * (2 * dot(wo, m)) - wo;
        } else {
          float u = draw(), r = sqrtf(u), phi = 2 * PI * draw();
          wi = {r * cosf(phi), r * sinf(phi), sqrtf(fmaxf(1e-6f, 1 - u))};
        }
        value = evaluate(wo, wi, specular, pdf);
        if (!(pdf > 0)) break;
        through = through * (value / pdf);
        density = pdf;
        d = tx * wi.x + ty * wi.y + normal * wi.z;
        if (dot(d, flat) <= 0) break;
        if (bounce > 2) {
          float live = fminf(0.95f, fmaxf(through.x, fmaxf(through.y, through.z)));
          if (draw() >= live) break;
          through = through * (1 / live);
        }
      }
    }
    film[pixel] = sum * (1.0f / samples);
  }
  double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count(), mean = 0;
  for (V p : film) mean += (p.x + p.y + p.z) / 3 / film.size();
  printf("%.9f %.9f\n", seconds, mean);
}
