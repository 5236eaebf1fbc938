// Reference: the same rays through Embree, single rays, one thread. Reads triangles (9 floats each) and rays (8 floats each:
// origin, tMin, direction, tMax); prints seconds for closest hits or any hits, and the hits as t.
#include "embreeScene.h"
#include <chrono>

int main(int argc, char** argv) {
  auto triangles = read(argv[1]);
  RTCDevice device = rtcNewDevice("threads=1");
  RTCScene scene = buildScene(device, triangles);
  size_t count = triangles.size() / 9;
  // Embree may read four bytes beyond the last corner of a shared buffer.
  std::vector<float> corners(triangles);
  corners.push_back(0);
  std::vector<unsigned> numbers(count * 3);
  for (size_t k = 0; k < count * 3; k++) numbers[k] = k;
  // Building is timed at the quality Embree chooses by itself.
  RTCScene plain = rtcNewScene(device);
  RTCGeometry again = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
  rtcSetSharedGeometryBuffer(again, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, corners.data(), 0, 12, count * 3);
  rtcSetSharedGeometryBuffer(again, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, numbers.data(), 0, 12, count);
  rtcSetSceneFlags(plain, RTC_SCENE_FLAG_ROBUST);
  auto began = std::chrono::steady_clock::now();
  rtcCommitGeometry(again);
  rtcAttachGeometry(plain, again);
  rtcCommitScene(plain);
  printf("%.9f 0\n", std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count());
  for (int a = 2; a + 1 < argc; a += 2) {
    auto rays = read(argv[a]);
    bool any = !strcmp(argv[a + 1], "any");
    size_t n = rays.size() / 8, hits = 0;
    auto start = std::chrono::steady_clock::now();
    for (size_t k = 0; k < n; k++) {
      const float* r = &rays[k * 8];
      RTCIntersectContext context;
      rtcInitIntersectContext(&context);
      if (any) {
        RTCRay ray = {r[0], r[1], r[2], r[3], r[4], r[5], r[6], 0, r[7], 0xffffffffu, 0, 0};
        rtcOccluded1(scene, &context, &ray);
        hits += ray.tfar < 0;
      } else {
        RTCRayHit hit;
        hit.ray = {r[0], r[1], r[2], r[3], r[4], r[5], r[6], 0, r[7], 0xffffffffu, 0, 0};
        hit.hit.geomID = RTC_INVALID_GEOMETRY_ID;
        hit.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
        rtcIntersect1(scene, &context, &hit);
        hits += hit.hit.geomID != RTC_INVALID_GEOMETRY_ID;
      }
    }
    printf("%.9f %zu\n", std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(), hits);
  }
}
