// The projector's gate: black with a rounded opening whose edge is worn and fuzzy.
vec3 scene(vec2 p, float t) {
  vec2 q = abs(p) - vec2(0.655, 0.452) + 0.075; float d = length(max(q, 0.0)) + min(max(q.x, q.y), 0.0) - 0.075; d += 0.0035 * (fbm(p * 26.0, 4) - 0.5) + 0.004 * exp(-900.0 * pow(p.x - 0.31, 2.0)) * step(0.0, p.y) - 0.006 * exp(-500.0 * dot(p - vec2(-0.655, 0.12), p - vec2(-0.655, 0.12))); gMatte = smoothstep(-0.0045, 0.0045, d); return vec3(0.0035, 0.003, 0.0028) * (0.5 + noise(p * 90.0)) * gMatte;
}
