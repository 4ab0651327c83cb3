// A lighthouse beam sweeps over night waves.
float waveH(vec2 p, float t) { float h = 0.0, a = 0.42; vec2 d = vec2(0.8, 0.6); for (int i = 0; i < 5; i++) { float ph = dot(p, d) * (0.5 + float(i) * 0.55) + t * (1.0 + 0.35 * float(i)); h += a * (1.0 - abs(sin(ph + noise(p * 0.4 + float(i)) * 2.0))); a *= 0.52; d = rot(1.3) * d; } return h - 0.35; }
vec3 nightSky(vec3 d) { float h = max(d.y, 0.0); vec3 c = mix(vec3(0.045, 0.07, 0.11), vec3(0.006, 0.011, 0.026), smoothstep(0.0, 0.6, h)); float cl = fbm(d.xz / (d.y + 0.15) * 1.3, 5); c += vec3(0.03, 0.04, 0.055) * smoothstep(0.4, 0.8, cl); c += vec3(0.9) * step(0.9994, hash2(d.xy / d.z * 420.0)) * (1.0 - smoothstep(0.4, 0.65, cl)) * h * 2.0; return c; }
vec3 lampPos() { return vec3(3.2, 4.6, 16.0); }
vec3 beamDir(float t) { float a = -1.7 + t * 0.95; return normalize(vec3(sin(a), -0.05, cos(a))); }
float beamAt(vec3 p, float t) { vec3 v = p - lampPos(); vec3 b = beamDir(t); float k = 0.0; for (int i = 0; i < 2; i++) { float al = dot(v, b) * (i == 0 ? 1.0 : -1.0); float d = length(v - b * dot(v, b)); float w = 0.16 + al * 0.06; if (al > 0.0) k += exp(-d * d / (w * w)) / (1.0 + 0.03 * al * al); } return k; }
float sway(float t) { return 0.01 * sin(t * 0.7); }
vec3 eye(float t) { return vec3(0, 1.9 + 0.08 * sin(t * 1.1), 0); }
const vec3 aim = vec3(0.6, 2.1, 10);
#ifdef TRUTH
// 1 the rock, 2 the tower, so far off that only their direction counts; not waves, sky and light.
vec3 follow(vec3 x, int what, float t, float dt) { return x; }
vec2 onto(vec3 x, float t) { vec3 d = transpose(lookAt(eye(t), aim)) * x; return d.z <= 0.0 ? vec2(9) : rot(-sway(t)) * (d.xy / d.z * 1.05); }
#endif
vec3 scene(vec2 p, float t) {
  p = rot(sway(t)) * p; vec3 ro = eye(t), rd = lookAt(ro, aim) * normalize(vec3(p, 1.05)); vec3 beamC = vec3(1.0, 0.86, 0.62); vec3 col; float dist = 60.0;
  if (rd.y < 0.02) {
    float tt = max((ro.y - 0.55) / max(-rd.y, 0.004), 0.5); float d0 = tt; bool hit = false; for (int i = 0; i < 26; i++) { vec3 q = ro + rd * tt; float h = q.y - waveH(q.xz, t); if (h < 0.004 * tt) { hit = true; break; } tt += max(h * 0.7, 0.02); if (tt > 90.0) break; }
    if (hit) { vec3 q = ro + rd * tt; float e = 0.02 + 0.004 * tt; float h0 = waveH(q.xz, t); vec3 n = normalize(vec3(h0 - waveH(q.xz + vec2(e, 0), t), e, h0 - waveH(q.xz + vec2(0, e), t))); n = normalize(n + 0.16 * vec3(noise(q.xz * 9.0 + t) - 0.5, 0, noise(q.zx * 9.0 - t) - 0.5)); vec3 r = reflect(rd, n); r.y = abs(r.y); float fr = 0.03 + 0.97 * pow(1.0 - max(dot(n, -rd), 0.0), 5.0);
      col = mix(vec3(0.004, 0.010, 0.014), nightSky(r) * 1.6, fr); float bm = beamAt(q, t); vec3 L = normalize(lampPos() - q); col += beamC * bm * (0.35 * max(dot(n, L), 0.0) * (0.25 + fr) + 2.2 * pow(max(dot(reflect(-L, n), -rd), 0.0), 40.0)) * 3.0; float foam = smoothstep(0.30, 0.52, h0 + 0.18 * fbm(q.xz * 3.0 + t * 0.2, 4) - 0.05); col += foam * (vec3(0.03, 0.045, 0.06) + beamC * bm * 1.2) * 0.8;
      vec3 lr = lampPos() - q; float gl = pow(max(dot(normalize(lr), r), 0.0), 300.0); col += beamC * gl * 4.0; dist = tt; col = mix(col, vec3(0.04, 0.06, 0.09), smoothstep(20.0, 90.0, tt)); } else col = nightSky(rd);
  } else col = nightSky(rd);
  float az = rd.x / rd.z, el = rd.y / rd.z; gPoint = vec3(az, el, 1); float rock = 0.035 + 0.12 * 0.0; rock = -0.16 + 0.22 * smoothstep(0.36, 0.12, abs(az - 0.24)) + 0.07 * fbm(vec2(az * 17.0, 3.0), 5) * smoothstep(0.36, 0.2, abs(az - 0.24)); if (el < rock - 0.07 && el > -0.14 && abs(az - 0.26) < 0.36 && dist > 15.0) { gObject = 1; col = vec3(0.006, 0.008, 0.011) + vec3(0.03, 0.035, 0.04) * fbm(vec2(az, el) * 60.0, 4) * smoothstep(-0.02, 0.05, el); }
  float tw = mix(0.03, 0.019, smoothstep(-0.02, 0.17, el)); float tx = az - 0.2; if (abs(tx) < tw && el > -0.03 && el < 0.165) { gObject = 2; float band = step(0.5, fract(el * 14.0)); float rnd2 = tx / tw; vec3 alb = mix(vec3(0.5, 0.49, 0.46), vec3(0.35, 0.05, 0.04), band) * (0.7 + 0.4 * fbm(vec2(tx, el) * 120.0, 3)); col = alb * (vec3(0.03, 0.04, 0.06) * (1.2 - rnd2 * 0.8) + beamC * 0.10 * smoothstep(0.02, 0.16, el)); }
  if (abs(tx) < 0.023 && el > 0.160 && el < 0.168) col = vec3(0.01); if (abs(tx) < 0.014 && el >= 0.168 && el < 0.2) col = beamC * (0.7 + 6.0 * smoothstep(0.012, 0.0, abs(tx)) ); if (el >= 0.2 && el < 0.2 + 0.016 - abs(tx) && abs(tx) < 0.017) col = vec3(0.012);
  vec3 b = beamDir(t); float sc = 0.0; float jit = hash2(p * 999.0 + t); for (int i = 0; i < 18; i++) { float tt = (float(i) + jit) * 2.2; if (tt > dist) break; vec3 q = ro + rd * tt; sc += beamAt(q, t) * (0.5 + 1.0 * fbm3(q * 0.35 + vec3(t * 0.3, 0, 0), 3)); } col += beamC * sc * 0.16;
  vec3 lv = normalize(lampPos() - ro); float fl = max(dot(b, -lv), dot(-b, -lv)); float ang = length(vec2(az, el) - lampPos().xy / 16.0 * vec2(1) + vec2(0, ro.y / 16.0)); float face = pow(max(fl, 0.0), 60.0); col += beamC * (0.0012 / (ang * ang + 0.0006) * (0.25 + 5.0 * face) + face * 0.5 * exp(-ang * 5.0)); return col;
}
