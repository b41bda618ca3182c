/* Any-hit rays of a mature native ray-tracing library (Embree, Debian package libembree-dev) on one thread: a bumpy torus of
   2·n·n triangles, 32 cosine-weighted rays a vertex. Prints the milliseconds of the build and millions of rays per second. */
#include <embree3/rtcore.h>
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static double now(void) { struct timespec t; clock_gettime(CLOCK_MONOTONIC, &t); return t.tv_sec * 1e3 + t.tv_nsec * 1e-6; }
static unsigned state = 1;
static float uniform(void) { state = state * 1664525u + 1013904223u; return (state >> 8) * (1.0f / 16777216); }

int main(int count, char **words) {
  int n = count > 1 ? atoi(words[1]) : 200, vertices = n * n, k = 0;
  RTCDevice device = rtcNewDevice("threads=1");
  RTCScene scene = rtcNewScene(device);
  RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
  float *place = rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 12, vertices);
  unsigned *corner = rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 12, 2 * n * n);
  for (int i = 0; i < n; i++) for (int j = 0; j < n; j++) {
    double a = 6.2831853 * i / n, b = 6.2831853 * j / n, r = 0.35 + 0.03 * sin(12 * a) * sin(9 * b);
    float *p = place + 3 * (i * n + j);
    p[0] = (1 + r * cos(b)) * cos(a); p[1] = r * sin(b); p[2] = (1 + r * cos(b)) * sin(a);
  }
  for (int i = 0; i < n; i++) for (int j = 0; j < n; j++) {
    unsigned a = i * n + j, b = (i + 1) % n * n + j, c = i * n + (j + 1) % n, d = (i + 1) % n * n + (j + 1) % n;
    unsigned two[] = { a, c, b, b, c, d };
    for (int q = 0; q < 6; q++) corner[k++] = two[q];
  }
  double began = now();
  rtcCommitGeometry(geometry); rtcAttachGeometry(scene, geometry); rtcCommitScene(scene);
  double build = now() - began;
  struct RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  long rays = 0;
  began = now();
  for (int i = 0; i < vertices; i++) {
    float *p = place + 3 * i;
    double a = 6.2831853 * (i / n) / n, b = 6.2831853 * (i % n) / n;
    float nx = cos(b) * cos(a), ny = sin(b), nz = cos(b) * sin(a);
    for (int q = 0; q < 32; q++, rays++) {
      float x, y, z, l;
      do { x = uniform() * 2 - 1; y = uniform() * 2 - 1; z = uniform() * 2 - 1; l = x * x + y * y + z * z; } while (l > 1 || l < 1e-4);
      l = 1 / sqrtf(l);
      struct RTCRay ray = { p[0] + nx * 1e-3f, p[1] + ny * 1e-3f, p[2] + nz * 1e-3f, 0, x * l + nx, y * l + ny, z * l + nz, 0, 1e30f, -1, 0, 0 };
      rtcOccluded1(scene, &context, &ray);
    }
  }
  printf("%.3f %.4f\n", build, rays / (now() - began) / 1e3);
}
