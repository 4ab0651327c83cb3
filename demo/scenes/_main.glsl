void main() {
  vec3 sum = vec3(0); float matte = 0.0; vec2 frag = vec2(gl_FragCoord.x, gl_FragCoord.y);
  for (int s = 0; s < uSamples; s++) {
    uint h = uint(gl_FragCoord.x) * 1973u + uint(gl_FragCoord.y) * 9277u + uint(s) * 26699u + uint(uFrame) * 31847u;
    vec2 j = vec2(rnd(h), rnd(h + 7u)); float k = (float(s) + rnd(h + 13u)) / float(uSamples);
    vec2 p = (gl_FragCoord.xy - 0.5 + j - uSize * 0.5) / uSize.y; gMatte = 0.0;
    vec3 c = scene(p, uTime0 + k * uShutter); sum += max(c, 0.0); matte += gMatte;
  }
  outColour = vec4(sum / float(uSamples), matte / float(uSamples));
}
