// Layout of everything that crosses between TypeScript and the kernel. Both sides import this file.
// All offsets and sizes are bytes, all records 16-byte aligned; f32 and u32 little endian.

// Mesh header
//   0 positions*  4 normals*  8 indices*  12 triangles  16 root node*  20 blocks*  24 low xyz  36 high xyz  48 area cdf*  52 area
export const MESH_SIZE = 64;
export const MESH_POSITIONS = 0;
export const MESH_NORMALS = 4;
export const MESH_INDICES = 8;
export const MESH_TRIANGLES = 12;
export const MESH_ROOT = 16;
export const MESH_BLOCKS = 20;
export const MESH_LOW = 24;
export const MESH_HIGH = 36;
export const MESH_CDF = 48;
export const MESH_AREA = 52;

// Wide node: eight child boxes, one row of eight floats each, then the children
//   0 low x   32 high x   64 low y   96 high y   128 low z   160 high z   192 child
// child: node address, or LEAF | blocks << 27 | first block (mesh), or LEAF | instance (instance level); an empty child has
// a box turned inside out, which no ray hits.
export const NODE_SIZE = 224;
export const NODE_CHILD = 192;
export const LEAF = 0x80000000;
export const LEAF_COUNT_SHIFT = 27;
export const LEAF_FIRST = 0x07ffffff;

// Triangle block: four triangles, one row of four floats each, then their numbers
//   0 v0 x   16 v0 y   32 v0 z   48 v1 x … 128 v2 z   144 triangle
export const BLOCK_SIZE = 160;
export const BLOCK_TRIANGLE = 144;

// Instance
//   0 world to object (12)   48 object to world (12)   96 mesh*   100 finish   104 part   108 light or -1   112 emission rgb
export const INSTANCE_SIZE = 128;
export const INSTANCE_TO_WORLD = 48;
export const INSTANCE_MESH = 96;
export const INSTANCE_FINISH = 100;
export const INSTANCE_PART = 104;
export const INSTANCE_LIGHT = 108;
export const INSTANCE_EMISSION = 112;

// Finish; the three tables are filled by prepareFinishes
export const FINISH_SIZE = 336;
export const FINISH_BASE = 0; // rgb
export const FINISH_METALNESS = 12;
export const FINISH_SPECULAR = 16;
export const FINISH_ALPHA = 20;
export const FINISH_IOR = 24;
export const FINISH_TRANSMISSION = 28;
export const FINISH_ABSORPTION = 32; // rgb, per millimetre
export const FINISH_THIN = 44;
export const FINISH_COAT = 48;
export const FINISH_COAT_COLOR = 52; // rgb
export const FINISH_COAT_ALPHA = 64;
export const FINISH_COAT_IOR = 68;
export const FINISH_TINT = 72; // rgb, of transmission at the surface
export const FINISH_TABLE_DIELECTRIC = 96; // 16 floats over cosine, then their mean
export const FINISH_TABLE_COAT = 176;
export const FINISH_TABLE_METAL = 256;
export const TABLE_STEPS = 16;

// Light
export const LIGHT_SIZE = 112;
export const LIGHT_KIND = 0;
export const LIGHT_CAMERA = 4;
export const LIGHT_EMISSION = 8; // rgb radiance
export const LIGHT_WEIGHT = 20; // power over four pi, for choosing
export const LIGHT_POSITION = 24;
export const LIGHT_X = 36; // panel: half edges
export const LIGHT_Y = 48;
export const LIGHT_NORMAL = 60;
export const LIGHT_AREA = 72;
export const LIGHT_RADIUS = 76;
export const LIGHT_INSTANCE = 80;
export const KIND_PANEL = 0;
export const KIND_BULB = 1;
export const KIND_PART = 2;
export const KIND_SURROUNDINGS = 3;

// Surroundings: equirectangular picture, top row first, and what choosing from it needs
export const SKY_SIZE = 48;
export const SKY_PIXELS = 0;
export const SKY_WIDTH = 4;
export const SKY_HEIGHT = 8;
export const SKY_ROWS = 12; // cumulative, height + 1
export const SKY_COLUMNS = 16; // cumulative, height rows of width + 1
export const SKY_WEIGHT = 20; // sum before normalising
export const SKY_MEAN = 24; // mean luminance over the sphere

// Scene
export const SCENE_SIZE = 256;
export const SCENE_INSTANCES = 0;
export const SCENE_INSTANCE_COUNT = 4;
export const SCENE_ROOT = 8;
export const SCENE_FINISHES = 12;
export const SCENE_FINISH_COUNT = 16;
export const SCENE_LIGHTS = 20;
export const SCENE_LIGHT_COUNT = 24;
export const SCENE_SKY = 28;
export const SCENE_SKY_TURN = 32;
export const SCENE_SKY_BRIGHTNESS = 36;
export const SCENE_BEHIND = 40; // BEHIND_…
export const SCENE_BEHIND_COLOR = 44;
export const SCENE_CAMERA_POSITION = 56;
export const SCENE_CAMERA_RIGHT = 68;
export const SCENE_CAMERA_UP = 80;
export const SCENE_CAMERA_FORWARD = 92;
export const SCENE_TAN_X = 104;
export const SCENE_TAN_Y = 108;
export const SCENE_LENS_RADIUS = 112;
export const SCENE_FOCUS = 116;
export const SCENE_FILM = 120;
export const SCENE_WIDTH = 124;
export const SCENE_HEIGHT = 128;
export const SCENE_SAMPLES = 132; // one past the last to be taken
export const SCENE_SEED = 136;
export const SCENE_DEPTH = 140;
export const SCENE_SPECK = 144;
export const SCENE_FIRST_SAMPLE = 148;
export const BEHIND_SURROUNDINGS = 0;
export const BEHIND_COLOR = 1;
export const BEHIND_TRANSPARENT = 2;

// Film: per pixel 14 floats, sums over samples: r g b alpha, normal xyz, depth in mm, albedo rgb, part number (u32, 0 for none, the
// first that was met), samples that met a part, squares of luminance. Divided by `readFilm`: means, then at 13 the
// standard deviation of the mean luminance.
export const FILM_FLOATS = 14;
export const FILM_PART = 11;
export const FILM_MET = 12;
export const FILM_SQUARES = 13;

/** Bytes of private scratch every worker needs: two traversal stacks. */
export const SCRATCH_SIZE = 65536;

// Planes of the noise filter, f32 each, (width rounded up to 4, plus two margins) × (height plus two margins), in this order:
//   light r g b   variance   normal x y z   albedo r g b   depth   luminance   filtered light r g b   filtered variance
// Margins hold a normal that no surface has, so that nothing is taken from there.
export const FILTER_MARGIN = 32;
export const FILTER_PLANES = 16;
export const FILTER_LEVELS = 5;
