// The end of a roll: a hole of light eats into the picture, rimmed with brown, and closes again.
vec3 scene(vec2 p, float t) {
  float k = t * 3.14159, grow = 0.5 - 0.5 * cos(k); float n = fbm(p * 2.6 + 4.0, 5), m = fbm(p * 9.0 + vec2(0.0, t * 0.5), 4); float d = 1.28 * grow + 0.55 * (n - 0.5) + 0.10 * (m - 0.5) - length(p - vec2(-0.42, 0.1)) * 0.95; float hot = smoothstep(0.03, 0.16, d), ember = exp(-pow((d - 0.015) / 0.035, 2.0)), glow = exp(min(d, 0.0) * 9.0);
  vec3 c = vec3(1.0, 0.28, 0.05) * glow * 0.32 + vec3(1.0, 0.42, 0.07) * ember * (0.6 + 0.7 * m) + mix(vec3(1.0, 0.72, 0.26), vec3(1.0, 0.97, 0.86), smoothstep(0.1, 0.4, d)) * hot * 1.1; c *= 0.9 + 0.1 * noise(vec2(float(uFrame) * 3.7, 0.0)); return c + vec3(0.0022, 0.0016, 0.0014);
}
