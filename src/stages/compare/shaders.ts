/** Programs of the graphics side. Layers hold linear camera RGB; only the last pass makes a picture for the screen of them. */

export const TILE_VERTEX = `#version 300 es
uniform vec2 corners[4];
uniform vec2 part;
out vec2 place;
void main() {
  place = vec2(gl_VertexID & 1, gl_VertexID >> 1) * part;
  gl_Position = vec4(corners[gl_VertexID], 0.0, 1.0);
}`;

export const TILE_FRAGMENT = `#version 300 es
precision highp float;
uniform sampler2D tile;
uniform bool mono;
in vec2 place;
out vec4 light;
void main() {
  vec3 rgb = texture(tile, place).rgb;
  light = vec4(mono ? rgb.rrr : rgb, 1.0);
}`;

/** Frames of clips come as codes: light is looked up in a row of 256, a channel each. */
export const FILM_FRAGMENT = `#version 300 es
precision highp float;
uniform sampler2D film;
uniform sampler2D curves;
in vec2 place;
out vec4 light;
float lit(float code, int channel) {
  return texelFetch(curves, ivec2(int(code * 255.0 + 0.5), 0), 0)[channel];
}
void main() {
  vec3 codes = texture(film, place).rgb;
  light = vec4(lit(codes.r, 0), lit(codes.g, 1), lit(codes.b, 2), 1.0);
}`;

export const CELL_VERTEX = `#version 300 es
out vec2 place;
void main() {
  place = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  gl_Position = vec4(place * 2.0 - 1.0, 0.0, 1.0);
}`;

/** What a cell's program is made for. */
export interface CellKind {
  mode: 'single' | 'wipe' | 'difference' | 'ratio';
  marks: boolean;
  /** Whether a picture's white lies below its peak. */
  compresses: boolean;
}

/** The last pass of one kind of cell. A program of its own a kind: without graphics hardware every branch is paid for, taken or not. */
export const cellFragment = ({ mode, marks, compresses }: CellKind) => `#version 300 es
#define ${mode.toUpperCase()}
${marks ? '#define MARKS' : ''}
${compresses ? '#define COMPRESSES' : ''}
precision highp float;
uniform sampler2D a;
uniform sampler2D b;
uniform vec3 gainsA;
uniform vec3 gainsB;
uniform vec2 whites;
uniform mat3 toScreenA;
uniform mat3 toScreenB;
uniform vec3 luminanceA;
uniform vec3 luminanceB;
uniform vec2 cell;
uniform vec3 wipe;
uniform float gray;
uniform vec3 topA;
uniform vec3 topB;
uniform vec3 darkA;
uniform vec3 darkB;
in vec2 place;
out vec4 color;

vec3 encode(vec3 light) {
  vec3 x = clamp(light, 0.0, 1.0);
  return mix(12.92 * x, 1.055 * pow(x, vec3(1.0 / 2.4)) - 0.055, step(0.0031308, x));
}

// Linear up to 0.8 of white, then an exponential: for takes whose white lies below their peak.
vec3 compressed(vec3 x) {
  return mix(x, 0.8 + 0.2 * (1.0 - exp(-(x - 0.8) / 0.2)), step(0.8, x));
}

vec3 shown(vec3 light, vec3 gains, mat3 toScreen, float white) {
  vec3 screen = toScreen * (light * gains) / white;
#ifdef COMPRESSES
  screen = white < 1.0 ? compressed(max(screen, 0.0)) : screen;
#endif
  return encode(screen);
}

// Clipped places get upright stripes, places that are too dark level ones: told apart by shape.
vec3 marked(vec3 picture, vec3 light, vec3 top, vec3 dark, vec2 pixel) {
  if (any(greaterThanEqual(light, top * 0.999))) return mod(pixel.x, 6.0) < 3.0 ? vec3(1.0) : vec3(0.0);
  if (all(lessThan(light, dark))) return mod(pixel.y, 6.0) < 3.0 ? vec3(0.45) : vec3(0.0);
  return picture;
}

// Stops of difference in luminance, a tenth of a stop a step, one stop to either end.
vec3 ratioColor(float stops) {
  float s = clamp(floor(stops * 10.0 + 0.5) / 10.0, -1.0, 1.0);
  vec3 less = vec3(0.10, 0.28, 0.62);
  vec3 more = vec3(0.86, 0.42, 0.05);
  vec3 same = vec3(0.78);
  return s < 0.0 ? mix(same, less, -s) : mix(same, more, s);
}

void main() {
  vec2 pixel = vec2(place.x, 1.0 - place.y) * cell;
  vec4 light = texture(a, place);
  vec4 other = light;
  bool second = false;
#ifdef WIPE
  second = dot(pixel - wipe.xy * cell, vec2(cos(wipe.z), sin(wipe.z))) >= 0.0;
  light = second ? texture(b, place) : light;
  other = light;
#endif
#if defined(DIFFERENCE) || defined(RATIO)
  other = texture(b, place);
#endif
  vec3 picture;
#ifdef RATIO
  float la = dot(light.rgb * gainsA, luminanceA);
  float lb = dot(other.rgb * gainsB, luminanceB);
  picture = la > 1e-6 && lb > 1e-6 ? ratioColor(log2(lb / la)) : vec3(0.0);
#else
  picture = shown(
    light.rgb,
    second ? gainsB : gainsA,
    second ? toScreenB : toScreenA,
    second ? whites.y : whites.x
  );
#endif
#ifdef DIFFERENCE
  picture = clamp(0.5 + 4.0 * (shown(other.rgb, gainsB, toScreenB, whites.y) - picture), 0.0, 1.0);
#elif defined(MARKS) && !defined(RATIO)
  picture = marked(picture, light.rgb, second ? topB : topA, second ? darkB : darkA, pixel);
#endif
  color = vec4(min(light.a, other.a) < 0.5 ? vec3(gray) : picture, 1.0);
}`;
