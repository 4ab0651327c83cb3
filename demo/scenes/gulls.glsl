// Gulls cross a pale sky above masts.
float wing(vec2 p, float span, float flap) { p.x = abs(p.x); float a = flap; vec2 e = vec2(span * 0.45 * cos(a), span * 0.45 * sin(a)); vec2 tip = e + span * 0.6 * vec2(cos(a * 0.4 - 0.35), sin(a * 0.4 - 0.35)); float h1 = clamp(p.x / max(e.x, 0.01), 0.0, 1.0); float d1 = seg2(p, vec2(0), e) - span * 0.075 * (1.0 - 0.35 * h1); float k = clamp((p.x - e.x) / max(tip.x - e.x, 0.01), 0.0, 1.0); float d2 = seg2(p, e, tip) - span * 0.055 * (1.0 - 0.9 * k); return min(d1, d2); }
float tilt(float t) { return 0.006 * sin(t * 0.8); }
vec2 drift(float t) { return 0.01 * vec2(sin(t * 0.5), cos(t * 0.7)); }
float lean(float f, float t) { return 0.012 * sin(t * 0.7 + f); }
// A bird's middle, its span and the turn of its body; how far its wings are up.
vec4 bird(float f, float t) { float z = 0.35 + 1.0 * hash1(f * 2.7); float sp = (0.16 + 0.12 * hash1(f * 3.3)) / z; float x = fract(hash1(f * 5.1) + t * sp * 0.42) * 2.6 - 1.3; float y = 0.02 + 0.36 * hash1(f * 7.7) * 1.0 - 0.04 + 0.03 * sin(t * 1.1 + f * 2.0); return vec4(x, y, 0.085 / z, -0.15 + 0.12 * sin(t * 0.9 + f)); }
float flapping(float f, float t) { return 0.25 + 0.5 * sin(t * (5.0 + 2.0 * hash1(f)) + f * 4.0) * smoothstep(-0.2, 0.6, sin(t * 0.8 + f * 1.7)); }
#ifdef TRUTH
// What a point on a bird (x to the side) lies on: its body, or an inner or outer wing that turns about its own joint.
vec2 onWing(vec2 q, float span, float a, float b) {
  float side = q.x < 0.0 ? -1.0 : 1.0; q.x = abs(q.x); vec2 e0 = span * 0.45 * vec2(cos(a), sin(a)), e1 = span * 0.45 * vec2(cos(b), sin(b)); vec2 tip = e0 + span * 0.6 * vec2(cos(a * 0.4 - 0.35), sin(a * 0.4 - 0.35));
  if (length(q) > span * 0.14) { if (seg2(q, vec2(0), e0) < seg2(q, e0, tip)) q = rot(a - b) * q; else q = e1 + rot((a - b) * 0.4) * (q - e0); }
  return vec2(q.x * side, q.y);
}
vec3 follow(vec3 x, int what, float t, float dt) {
  float f = float(what - 1); if (what < 10) return vec3(x.x + (lean(f, t + dt) - lean(f, t)) * (x.y + 0.5), x.yz);
  f = float(what - 10); vec4 now = bird(f, t), then = bird(f, t + dt); vec2 q = rot(now.w) * (x.xy - now.xy);
  q = onWing(q, now.z, flapping(f, t), flapping(f, t + dt)); return vec3(then.xy + rot(-then.w) * q, 0);
}
vec2 onto(vec3 x, float t) { return rot(-tilt(t)) * (x.xy - drift(t)); }
#endif
vec3 scene(vec2 p, float t) {
  p = rot(tilt(t)) * p + drift(t); gPoint = vec3(p, 0); float y = p.y + 0.5; vec3 col = mix(vec3(0.86, 0.82, 0.78), vec3(0.55, 0.64, 0.74), smoothstep(0.0, 1.1, y)); vec2 cp = vec2(p.x * 1.1 + t * 0.012, p.y * 2.6); float c1 = fbm(cp * 1.6 + fbm(cp * 2.0, 4), 6), c2 = fbm(cp * 3.4 + 8.0, 5); col = mix(col, vec3(0.97, 0.95, 0.92), smoothstep(0.42, 0.72, c1) * 0.85); col *= 1.0 - 0.22 * smoothstep(0.5, 0.75, c2) * smoothstep(0.35, 0.6, c1); vec2 sun = vec2(-0.42, 0.24); float sd = length(p - sun); col += vec3(1.0, 0.93, 0.8) * (0.5 * exp(-sd * 5.0) + 1.6 * smoothstep(0.055, 0.03, sd)) * (1.0 - 0.5 * smoothstep(0.5, 0.8, c1));
  float far = -0.40 + 0.03 * fbm(vec2(p.x * 5.0, 2.0), 4) ; if (p.y < far) col = mix(col, vec3(0.46, 0.5, 0.55), 0.8); if (p.y < -0.435 - 0.004 * sin(p.x * 4.0)) { float w = fbm(vec2(p.x * 9.0 + t * 0.3, p.y * 90.0 + t), 4); col = mix(vec3(0.34, 0.39, 0.42), vec3(0.72, 0.7, 0.66), smoothstep(0.35, 0.7, w)); col += 0.5 * smoothstep(0.68, 0.78, w) * exp(-abs(p.x - sun.x) * 4.0); }
  for (int i = 0; i < 5; i++) { float f = float(i); float mx = -0.86 + 0.34 * f + 0.24 * hash1(f + 3.0); float top = -0.26 + 0.44 * hash1(f * 7.0 + 1.0); vec2 m = p - vec2(mx + lean(f, t) * (p.y + 0.5), 0); float d = abs(m.x) - (0.003 + 0.003 * hash1(f * 3.0)) * (1.0 - 0.5 * (p.y + 0.5)); float rig = seg2(m, vec2(0, top), vec2(0.10 + 0.09 * hash1(f), -0.56)) - 0.0012; rig = min(rig, seg2(m, vec2(0, top), vec2(-0.07 - 0.09 * hash1(f + 8.0), -0.56)) - 0.0012); rig = min(rig, seg2(m, vec2(-0.06, top - 0.13), vec2(0.06, top - 0.13)) - 0.002); if (p.y < top && d < 0.0) rig = min(rig, d); if (rig < 0.0) gObject = 1 + i; if (rig < 0.0) col = vec3(0.07, 0.065, 0.065) * (0.7 + 0.6 * noise(p * 90.0)); float hull = box3(vec3(m.x, p.y + 0.485 - 0.3 * m.x * m.x, 0), vec3(0.13, 0.035, 1), 0.02); if (hull < -9.0) col = mix(vec3(0.11, 0.12, 0.15), vec3(0.3, 0.1, 0.08), step(-0.482, p.y)) * (0.6 + 0.7 * fbm(p * vec2(20, 90), 3)); }
  float wall = -0.468 + 0.012 * step(0.5, noise(vec2(p.x * 8.0, 3.0))) + 0.006 * noise(vec2(p.x * 60.0, 1.0)); if (p.y < wall) gObject = 0; if (p.y < wall) col = vec3(0.085, 0.08, 0.078) * (0.4 + 1.1 * fbm(p * vec2(22, 60), 4));
  for (int i = 0; i < 11; i++) { float f = float(i); vec4 at = bird(f, t); float z = 0.35 + 1.0 * hash1(f * 2.7), span = at.z; vec2 q = rot(at.w) * (p - at.xy); if (length(q) > span * 1.3) continue; float flap = flapping(f, t); float d = wing(q, span, flap); d = smin(d, length((q - vec2(0, -span * 0.02)) * vec2(1.0, 1.35)) - span * 0.12, span * 0.08); d = min(d, length((q - vec2(span * 0.06, span * 0.06)) ) - span * 0.06); float aa = 0.0018 * mix(1.0, 2.4, smoothstep(0.6, 0.3, z)); float cov = smoothstep(aa, -aa, d); vec3 body = mix(vec3(0.06, 0.06, 0.07), vec3(0.5, 0.5, 0.52), smoothstep(0.0, span * 0.10, q.y - d * 0.5 - span * 0.02) * 0.45); body = mix(body, vec3(0.62, 0.66, 0.7), 0.35 * smoothstep(0.8, 1.35, z)); col = mix(col, body, cov); gMatte = max(gMatte, cov); if (cov > 0.5) gObject = 10 + i; }
  return col * 0.92;
}
