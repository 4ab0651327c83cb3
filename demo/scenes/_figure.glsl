// A standing figure as a distance field, posed by joints that a scene sets for each instant.
vec3 jHip, jChest, jNeck, jHead, jElbow[2], jHand[2], jKnee[2], jFoot[2], jShoulder[2], jHipSide[2];
float fTurn;
vec3 limb(vec3 a, vec3 b, float l1, float l2, vec3 pole) {
  vec3 d = b - a; float L = min(length(d), (l1 + l2) * 0.999); vec3 n = normalize(d);
  float x = (l1 * l1 - l2 * l2 + L * L) / (2.0 * L); float h = sqrt(max(l1 * l1 - x * x, 0.0));
  vec3 p = normalize(pole - n * dot(pole, n)); return a + n * x + p * h;
}
// hip: position of the pelvis; turn: about the vertical; lean: side bend; hands and feet are offsets in the body's own frame.
void pose(vec3 hip, float turn, vec2 lean, vec3 handL, vec3 handR, vec3 footL, vec3 footR, float nod) {
  fTurn = turn; float c = cos(turn), s = sin(turn); mat3 R = mat3(c, 0, -s, 0, 1, 0, s, 0, c);
  jHip = hip; jChest = hip + R * vec3(lean.x * 0.30, 0.42, lean.y * 0.30); jNeck = jChest + R * vec3(lean.x * 0.1, 0.14, lean.y * 0.08);
  jHead = jNeck + R * vec3(lean.x * 0.05 + nod * 0.05, 0.17, 0.03 + lean.y * 0.06);
  for (int i = 0; i < 2; i++) {
    float sd = i == 0 ? -1.0 : 1.0;
    jShoulder[i] = jChest + R * vec3(sd * 0.18, 0.07 + sd * lean.x * 0.05, 0.0); jHipSide[i] = hip + R * vec3(sd * 0.09, -0.03, 0);
    jHand[i] = jShoulder[i] + R * (i == 0 ? handL : handR); vec3 hd = jHand[i] - jShoulder[i];
    if (length(hd) > 0.53) jHand[i] = jShoulder[i] + normalize(hd) * 0.53;
    jElbow[i] = limb(jShoulder[i], jHand[i], 0.28, 0.26, R * vec3(sd * 0.6, -0.4, -0.7));
    jFoot[i] = R * (i == 0 ? footL : footR) + vec3(hip.x, 0, hip.z); vec3 fd = jFoot[i] - jHipSide[i];
    if (length(fd) > 0.86) jFoot[i] = jHipSide[i] + normalize(fd) * 0.86;
    jKnee[i] = limb(jHipSide[i], jFoot[i], 0.44, 0.43, R * vec3(sd * 0.1, 0, 1.0));
  }
}
// Parts of the body, each with a frame of its own: head, torso, upper arms, forearms, thighs, shins, shoes.
const int PARTS = 12;
void part(int i, out vec3 a, out mat3 F) {
  float c = cos(fTurn), s = sin(fTurn); mat3 R = mat3(c, 0, -s, 0, 1, 0, s, 0, c); F = R;
  if (i == 0) { a = jHead; return; }
  int k = i & 1; float sd = k == 0 ? -1.0 : 1.0; vec3 b, pole;
  if (i == 1) { a = jHip; b = jChest; pole = R * vec3(0, 0, 1); }
  else if (i < 4) { a = jShoulder[k]; b = jElbow[k]; pole = R * vec3(sd * 0.6, -0.4, -0.7); }
  else if (i < 6) { a = jElbow[k]; b = jHand[k]; pole = R * vec3(sd * 0.6, -0.4, -0.7); }
  else if (i < 8) { a = jHipSide[k]; b = jKnee[k]; pole = R * vec3(sd * 0.1, 0, 1); }
  else if (i < 10) { a = jKnee[k]; b = jFoot[k]; pole = R * vec3(sd * 0.1, 0, 1); }
  else { a = jFoot[k]; return; }
  vec3 n = normalize(b - a), u = normalize(pole - n * dot(pole, n)); F = mat3(u, n, cross(u, n));
}
float partDistance(int i, vec3 p) {
  int k = i & 1;
  if (i == 0) return length(p - jHead) - 0.11;
  if (i == 1) return min(capsule(p, jHip, jChest, 0.14, 0.14), capsule(p, jShoulder[0], jShoulder[1], 0.07, 0.07));
  if (i < 4) return capsule(p, jShoulder[k], jElbow[k], 0.058, 0.05);
  if (i < 6) return capsule(p, jElbow[k], jHand[k], 0.046, 0.04);
  if (i < 8) return capsule(p, jHipSide[k], jKnee[k], 0.1, 0.068);
  if (i < 10) return capsule(p, jKnee[k], jFoot[k], 0.066, 0.05);
  return capsule(p, jFoot[k], jFoot[k] + vec3(sin(fTurn), 0, cos(fTurn)) * 0.13, 0.05, 0.04) - 0.01;
}
int partOf(vec3 p) { int best = 0; float least = 1e3; for (int i = 0; i < PARTS; i++) { float d = partDistance(i, p); if (d < least) { least = d; best = i; } } return best; }
// Where on its part a point lies: the same for the same place of skin or cloth at any time.
vec3 onPart(int i, vec3 p) { vec3 a; mat3 F; part(i, a, F); return transpose(F) * (p - a); }
vec3 fromPart(int i, vec3 q) { vec3 a; mat3 F; part(i, a, F); return a + F * q; }
vec3 onBody(vec3 p) { int i = partOf(p); return onPart(i, p) + float(i) * vec3(3.7, 5.3, 7.1); }
// x: distance; y: what it is (0 skin, 1 top, 2 trousers, 3 hair, 4 shoes).
vec2 figure(vec3 p) {
  vec3 q = p - jHead; float c = cos(fTurn), s = sin(fTurn); q.xz = mat2(c, s, -s, c) * q.xz;
  float head = ellipsoid(q - vec3(0, 0, 0.0), vec3(0.085, 0.115, 0.1));
  head = smin(head, length(q - vec3(0, -0.02, 0.1)) - 0.012, 0.03); head = smin(head, ellipsoid(q - vec3(0, -0.075, 0.035), vec3(0.05, 0.05, 0.06)), 0.04);
  float hair = ellipsoid(q - vec3(0, 0.03, -0.022), vec3(0.097, 0.112, 0.1)); hair = max(hair, -(ellipsoid(q - vec3(0, -0.03, 0.09), vec3(0.08, 0.105, 0.09))));
  hair = smin(hair, capsule(q, vec3(0, 0.0, -0.09), vec3(0, -0.17, -0.11), 0.045, 0.02), 0.05);
  float skin = smin(head, capsule(p, jNeck - vec3(0, 0.03, 0), jHead - vec3(0, 0.05, 0), 0.052, 0.05), 0.03);
  float top = capsule(p, jHip + vec3(0, 0.06, 0), jChest, 0.115, 0.135); top = smin(top, capsule(p, jShoulder[0], jShoulder[1], 0.07, 0.07), 0.1);
  float leg = 1e3, shoe = 1e3;
  for (int i = 0; i < 2; i++) {
    top = smin(top, capsule(p, jShoulder[i], jElbow[i], 0.058, 0.05), 0.05);
    skin = min(skin, capsule(p, jElbow[i], jHand[i], 0.042, 0.03)); skin = smin(skin, length(p - jHand[i]) - 0.042, 0.03);
    leg = min(leg, smin(capsule(p, jHipSide[i], jKnee[i], 0.1, 0.068), capsule(p, jKnee[i], jFoot[i], 0.066, 0.05), 0.05));
    vec3 toe = vec3(sin(fTurn), 0, cos(fTurn)); shoe = min(shoe, capsule(p, jFoot[i] + vec3(0, 0.035, 0) - toe * 0.03, jFoot[i] + vec3(0, 0.02, 0) + toe * 0.13, 0.045, 0.035));
  }
  leg = smin(leg, ellipsoid(p - jHip, vec3(0.15, 0.13, 0.12)), 0.08);
  { vec3 fold = p - jHip; top -= 0.006 * sin(fold.y * 60.0 + sin(dot(fold, vec3(cos(fTurn), 0, -sin(fTurn))) * 21.0) * 2.0) * 0.4; } 
  vec2 r = vec2(skin, 0); if (top < r.x) r = vec2(top, 1); if (leg < r.x) r = vec2(leg, 2); if (hair < r.x) r = vec2(hair, 3); if (shoe < r.x) r = vec2(shoe, 4);
  return r;
}
vec3 figureNormal(vec3 p) { vec2 e = vec2(0.002, -0.002); return normalize(e.xyy * figure(p + e.xyy).x + e.yyx * figure(p + e.yyx).x + e.yxy * figure(p + e.yxy).x + e.xxx * figure(p + e.xxx).x); }
float figureMarch(vec3 ro, vec3 rd, out float what) {
  float n, f; what = -1.0; vec3 ext = vec3(0.85, 1.15, 0.85);
  if (!hitBox(ro, rd, vec3(jHip.x, 0.85, jHip.z) - ext, vec3(jHip.x, 0.95, jHip.z) + ext, n, f)) return -1.0;
  float t = n; for (int i = 0; i < 44; i++) { vec2 d = figure(ro + rd * t); if (d.x < 0.0016) { what = d.y; return t; } t += d.x * 0.92; if (t > f) break; } return -1.0;
}
float figureShadow(vec3 p, vec3 l, float k) {
  float n, f; vec3 ext = vec3(0.75, 1.1, 0.75); if (!hitBox(p, l, vec3(jHip.x, 0.9, jHip.z) - ext, vec3(jHip.x, 0.9, jHip.z) + ext, n, f)) return 1.0;
  float t = max(n, 0.02), s = 1.0; for (int i = 0; i < 22; i++) { float d = figure(p + l * t).x; s = min(s, k * d / t); t += clamp(d, 0.02, 0.3); if (s < 0.01 || t > f) break; } s = clamp(s, 0.0, 1.0); return s * s * (3.0 - 2.0 * s);
}
float figureOcclusion(vec3 p, vec3 n) { return clamp(0.25 + 0.75 * (figure(p + n * 0.06).x / 0.06 * 0.6 + figure(p + n * 0.16).x / 0.16 * 0.4), 0.0, 1.0); }
vec3 figureAlbedo(vec3 x, float what, vec3 top, vec3 legs) {
  vec3 p = onBody(x);
  float weave = 0.8 + 0.4 * noise(p.xy * 90.0) * noise(p.zy * 70.0 + 5.0);
  if (what < 0.5) return vec3(0.62, 0.36, 0.26) * (0.9 + 0.2 * noise3(p * 40.0)) * mix(vec3(1), vec3(1.1, 0.85, 0.82), noise3(p * 14.0));
  if (what < 1.5) return top * weave; if (what < 2.5) return legs * weave; if (what < 3.5) return vec3(0.035, 0.024, 0.02) * (0.6 + 0.9 * noise(p.xy * vec2(160, 20))); return vec3(0.05) * weave;
}
