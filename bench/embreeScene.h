// What both references share: files of floats, and a scene of triangles for single rays on one thread.
#pragma once
#include <embree3/rtcore.h>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <vector>

static std::vector<float> read(const char* path) {
  FILE* f = fopen(path, "rb");
  fseek(f, 0, SEEK_END);
  std::vector<float> data(ftell(f) / 4);
  rewind(f);
  if (fread(data.data(), 4, data.size(), f) != data.size()) exit(1);
  fclose(f);
  return data;
}

/** Triangles of nine floats each, built at high quality, with robust intersection. */
static RTCScene buildScene(RTCDevice device, const std::vector<float>& triangles) {
  RTCScene scene = rtcNewScene(device);
  RTCGeometry mesh = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
  size_t count = triangles.size() / 9;
  float* v = (float*)rtcSetNewGeometryBuffer(mesh, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 12, count * 3);
  memcpy(v, triangles.data(), triangles.size() * 4);
  unsigned* i = (unsigned*)rtcSetNewGeometryBuffer(mesh, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 12, count);
  for (size_t k = 0; k < count * 3; k++) i[k] = k;
  rtcSetGeometryBuildQuality(mesh, RTC_BUILD_QUALITY_HIGH);
  rtcCommitGeometry(mesh);
  rtcAttachGeometry(scene, mesh);
  rtcSetSceneFlags(scene, RTC_SCENE_FLAG_ROBUST);
  rtcCommitScene(scene);
  return scene;
}
