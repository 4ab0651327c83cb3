// Light that found its way past the film door: warm, soft, wandering in from the right.
vec3 scene(vec2 p, float t) {
  float k = t * 3.14159; vec2 q = p + 0.08 * vec2(sin(k), cos(k * 2.0)); float edge = 0.62 + 0.22 * sin(k) + 0.16 * sin(k * 3.0 + 1.0); float n = fbm(q * 1.4 + vec2(sin(k), cos(k)) * 0.4, 4); float d = q.x - edge + 0.9 * (n - 0.5) + 0.15 * q.y; float core = exp(5.0 * min(d, 0.12)), wide = exp(2.2 * min(d, 0.3));
  vec3 c = vec3(1.0, 0.30, 0.07) * wide * 0.62 + vec3(1.0, 0.66, 0.28) * core * 0.75 + vec3(1.0, 0.92, 0.7) * pow(core, 3.0) * 0.8; float streak = exp(-60.0 * pow(q.y + 0.18 - 0.05 * sin(k), 2.0)) * smoothstep(-0.7, 0.8, q.x); c += vec3(0.9, 0.16, 0.10) * 0.16 * streak * (0.6 + 0.4 * sin(k * 2.0)); return c * (0.75 + 0.25 * sin(k * 2.0 + 0.4)) + vec3(0.0016, 0.0012, 0.0010);
}
