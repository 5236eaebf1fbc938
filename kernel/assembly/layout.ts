// Layout of everything that crosses between TypeScript and the kernel. Both sides import this file.
// All offsets and sizes are bytes, all records 16-byte aligned; f32 and u32 little endian.

// Mesh header
//   0 positions*  4 normals*  8 indices*  12 triangles  16 root node*  24 low xyz  36 high xyz  48 area cdf*  52 area
//   56 uvs* or 0
export const MESH_SIZE = 64;
export const MESH_POSITIONS = 0;
export const MESH_NORMALS = 4;
export const MESH_INDICES = 8;
export const MESH_TRIANGLES = 12;
export const MESH_ROOT = 16;
export const MESH_LOW = 24;
export const MESH_HIGH = 36;
export const MESH_CDF = 48;
export const MESH_AREA = 52;
export const MESH_UVS = 56;
export const MESH_EDGES = 60; // edges that wear*, 0 while nothing asks for them

// Wide node: eight child boxes, one row of eight floats each, then the children
//   0 low x   32 high x   64 low y   96 high y   128 low z   160 high z   192 child
// child: node address, or LEAF | address of a block / 32 (mesh), or LEAF | instance (instance level); an empty child has a box
// turned inside out, which no ray hits.
export const NODE_SIZE = 224;
export const NODE_CHILD = 192;
export const LEAF = 0x80000000;
export const LEAF_SHIFT = 5;

// Triangle block, behind the node it hangs on: four triangles, one row of four floats each, then their numbers
//   0 v0 x   16 v0 y   32 v0 z   48 v1 x … 128 v2 z   144 triangle
export const BLOCK_SIZE = 160;
export const BLOCK_TRIANGLE = 144;

// Instance
//   0 world to object (12)   48 object to world (12)   96 mesh*   100 finish*   104 part   108 light or -1   112 emission rgb
//   124 place among the moving instances from 1, or 0   128 motion*   132 next frame's object to world* or 0   136 name's hash
//   140 flags
export const INSTANCE_SIZE = 144;
export const INSTANCE_TO_WORLD = 48;
export const INSTANCE_MESH = 96;
export const INSTANCE_FINISH = 100;
export const INSTANCE_PART = 104;
export const INSTANCE_LIGHT = 108;
export const INSTANCE_EMISSION = 112;
export const INSTANCE_MOVING = 124;
export const INSTANCE_MOTION = 128;
export const INSTANCE_NEXT = 132;
export const INSTANCE_HASH = 136;
export const INSTANCE_FLAGS = 140;
/** The part's light leaves both of its sides. */
export const INSTANCE_TWO_SIDED = 1;
/** The camera does not see the part's light. */
export const INSTANCE_DARK_TO_CAMERA = 2;
/** Something that gives light is inside the part, so that light is sampled from within it. */
export const INSTANCE_HOLDS_LIGHT = 4;
/** The first thing seen here counts as shadow catcher. */
export const INSTANCE_CATCHER = 8;
/** A clear solid in or near which something gives light, so that ways to it are tried from within: see guide.ts. */
export const INSTANCE_LENS = 16;
/** Rays straight from the camera, those that left a surface, and those towards lights go through the part as if it were not there. */
export const INSTANCE_UNSEEN = 32;
export const INSTANCE_UNMIRRORED = 64;
export const INSTANCE_SHADOWLESS = 128;
/** The part belongs to what is seen behind: that is seen in its place, shaded by what stands in the lights' way where it catches too. */
export const INSTANCE_HIDES = 256;
export const INSTANCE_CATCHES = 512;
/** Cuts go through the part. */
export const INSTANCE_CUT = 1024;
/** From this bit on: which lights that light chosen parts alone light this one. */
export const LINKS_SHIFT = 11;
export const MOST_LINKS = 21;

// Cut: a body that takes what is within it out of parts: world to its space (12), kind. In its space it fills a cube, or the cylinder
// in it along Y, from -1 to 1.
export const CUT_SIZE = 64;
export const CUT_KIND = 48;
export const CUT_BOX = 0;
export const CUT_CYLINDER = 1;

// Motion of an instance while the shutter is open, from one place to another: translation (3), rotation (quaternion, 4), stretch
// (rows, 9), each twice. See motion.ts.
export const MOTION_SIZE = 128;

// What one worker knows of a moving instance at the time of its path: stamp, world to object (12) at 16, object to world (12)
export const MOVED_SIZE = 112;
export const MOVED_MATRICES = 16;

// Finish: parameters of the OpenPBR Surface specification 1.1 as the kernel reads them, floats unless said otherwise. A map may
// multiply any of them, so each has a place of its own.
export const FINISH_SIZE = 256;
export const FINISH_BASE = 0; // rgb, weight included
export const FINISH_METALNESS = 12;
export const FINISH_DIFFUSE_ROUGHNESS = 16;
export const FINISH_SPECULAR = 20;
export const FINISH_SPECULAR_COLOR = 24; // rgb
export const FINISH_ROUGHNESS = 36;
export const FINISH_ANISOTROPY = 40;
export const FINISH_ROTATION = 44; // radians from the tangent
export const FINISH_IOR = 48;
export const FINISH_TRANSMISSION = 52;
export const FINISH_TINT = 56; // rgb, of transmission at the surface
export const FINISH_THIN = 68;
export const FINISH_CAUCHY = 72; // nm²: index = A + this / wavelength², 0 without dispersion
export const FINISH_SUBSURFACE = 76;
export const FINISH_SUBSURFACE_COLOR = 80; // rgb
export const FINISH_SUBSURFACE_RADIUS = 92; // rgb, mean free path in mm
export const FINISH_SUBSURFACE_ANISOTROPY = 104;
export const FINISH_EXTINCTION = 108; // rgb, per mm: the inside of a clear or cloudy solid
export const FINISH_SCATTERING = 120; // rgb, per mm, part of the extinction
export const FINISH_SCATTER_ANISOTROPY = 132;
export const FINISH_COAT = 136;
export const FINISH_COAT_COLOR = 140; // rgb
export const FINISH_COAT_ROUGHNESS = 152;
export const FINISH_COAT_ANISOTROPY = 156;
export const FINISH_COAT_IOR = 160;
export const FINISH_COAT_DARKENING = 164;
export const FINISH_FUZZ = 168;
export const FINISH_FUZZ_COLOR = 172; // rgb
export const FINISH_FUZZ_ROUGHNESS = 184;
export const FINISH_FILM = 188;
export const FINISH_FILM_THICKNESS = 192; // nm
export const FINISH_FILM_IOR = 196;
export const FINISH_OPACITY = 200;
export const FINISH_EMISSION = 204; // rgb, multiplies the emission of the part; 1 without a map
export const FINISH_NORMAL = 216; // tilt of the normal along u and v of the surface, from a map
export const FINISH_MAPS = 224; // u32 address of the first map
export const FINISH_MAP_COUNT = 228; // u32
export const FINISH_RELIEF = 232; // u32, whether a map drives the height
export const FINISH_HASH = 236; // u32, of the name: its Cryptomatte id
export const FINISH_HEIGHT = 240; // mm, of the relief
export const FINISH_SLOPE = 244; // xyz: how the height grows along the surface, in the world, from the maps

// Map: one layer of what drives parameters of a finish, by what its source gives at a shading point. Layers of one parameter follow
// one another from the lowest.
//   0 texture*  4 first parameter's offset  8 number of parameters  12 channel  16 uv matrix (6)  40 strength  44 kind of the source
//   48 blend  52 projection  56 tiling  60 flags  64 rows that bring a place into the frame it is laid on in, mm (12)  112 size (3)
//   124 softness  128 dark, 1 / (bright - dark), curve, low, high (5)  148 shades*  152 their number  156 what 1 is worth
//   160 parameters of the source (12)
export const MAP_SIZE = 208;
export const MAP_DATA = 0;
export const MAP_TARGET = 4;
export const MAP_COMPONENTS = 8;
export const MAP_CHANNEL = 12;
export const MAP_MATRIX = 16;
export const MAP_STRENGTH = 40;
export const MAP_KIND = 44; // u32, SOURCE_…
export const SOURCE_PICTURE = 0; // its data is a texture
export const SOURCE_GRADIENT = 1;
export const SOURCE_NOISE = 2;
// Rows by which the lattice of noise is turned: flat sides along the axes would else cut through its cells in one place only, and be
// darker or brighter than what lies askew.
export const NOISE_XX = 0.3617088;
export const NOISE_XY = -0.6579162;
export const NOISE_XZ = 0.6605399;
export const NOISE_YX = 0.7799363;
export const NOISE_YY = 0.6016978;
export const NOISE_YZ = 0.172218;
export const NOISE_ZX = -0.5107505;
export const NOISE_ZY = 0.4528863;
export const NOISE_ZZ = 0.7307722;
// Means of two patterns of noise, measured over 200,000 places; those of the others are 0.5.
export const NOISE_CELLS_MEAN = 0.5203;
export const NOISE_CRACKS_MEAN = 0.1968;
export const SOURCE_WEAR = 3;
export const SOURCE_FACING = 4;
export const SOURCE_PART = 5;
export const MAP_BLEND = 48; // u32, BLEND_…
export const BLEND_MULTIPLY = 0;
export const BLEND_OVER = 1;
export const BLEND_ADD = 2;
export const BLEND_SCREEN = 3;
export const BLEND_DIFFERENCE = 4;
export const BLEND_MASK = 5;
export const MAP_PROJECTION = 52; // u32, PROJECTION_…
export const PROJECTION_COORDINATES = 0;
export const PROJECTION_THROUGH = 1;
export const PROJECTION_PLANAR = 2;
export const PROJECTION_BOX = 3;
export const PROJECTION_CYLINDRICAL = 4;
export const PROJECTION_SPHERICAL = 5;
export const PROJECTION_CAMERA = 6;
export const PROJECTION_WRAPPED = 7; // round a cylinder, by lengths along it
export const MAP_TILING = 56; // u32, TILING_…
export const TILING_REPEAT = 0;
export const TILING_MIRROR = 1;
export const TILING_ONCE = 2;
export const TILING_STRETCH = 3;
export const MAP_FLAGS = 60; // u32
export const MAP_SELF_MASKED = 1;
export const MAP_IN_WORLD = 2;
export const MAP_REMAPPED = 4; // else its values are taken as they are
export const MAP_ONE_SIDED = 16;
export const MAP_BOUNDED = 8; // what it drives stays between 0 and 1
export const MAP_PLACE = 64;
export const MAP_EXTENT = 112;
export const MAP_SOFTNESS = 124;
export const MAP_DARK = 128;
export const MAP_CONTRAST = 132;
export const MAP_CURVE = 136;
export const MAP_LOW = 140;
export const MAP_HIGH = 144;
export const MAP_SHADES = 148; // stops of 16 bytes: where, r, g, b
export const MAP_SHADE_COUNT = 152; // u32
export const MAP_WORTH = 156;
export const MAP_PARAMETERS = 160;
export const MAP_MOST_PARAMETERS = 12;

// Edges of a mesh that wear, found by a table of the cells of a grid that they pass near
//   0 length of a cell's side  4 entries of the table - 1  8 table*: key (0 where empty), first of the list, length of the list
//   12 lists of numbers of edges*  16 edges*: two ends (6) and how sharply the surface turns there, per mm, above 0 where it stands out
export const EDGES_SIZE = 20;
export const EDGES_CELL = 0;
export const EDGES_MASK = 4;
export const EDGES_TABLE = 8;
export const EDGES_LISTS = 12;
export const EDGES_SEGMENTS = 16;
export const EDGE_ENTRY_SIZE = 12;
export const EDGE_SIZE = 28;

// Shading point: what maps go by at a place of a surface, floats unless said otherwise
export const POINT_SIZE = 128;
export const POINT_PLACE = 0; // xyz in the world, mm
export const POINT_OBJECT = 12; // xyz in the part's own space, mm
export const POINT_NORMAL = 24; // xyz in the world, outward
export const POINT_U = 36; // coordinates
export const POINT_V = 40;
export const POINT_COVERED = 44; // of the coordinates' unit that a pixel covers
export const POINT_WIDTH = 48; // mm that a pixel covers
export const POINT_TIME = 52; // part of the shutter's slice that has gone by
export const POINT_PART = 56; // u32, of the part's name
export const POINT_MESH = 60; // u32, address
export const POINT_FACING = 64; // cosine of the way it is looked at
export const POINT_TANGENT = 68; // unit, in the world: u grows along it
export const POINT_ACROSS = 80; // unit, in the world: v grows along it
export const POINT_TANGENT_OBJECT = 92; // what a mm along each of them is in the part's own space
export const POINT_ACROSS_OBJECT = 104;
export const POINT_PER_LENGTH = 116; // coordinates that a mm is

// Tables of directional albedo, one for all finishes; each axis has ENERGY_STEPS steps, cosine fastest, then alpha's root, then
// the root of reflectance at normal incidence.
//   metal (alpha, cosine) and its mean   fuzz (roughness, cosine)   outer reflection and its mean   glass from outside, from inside
export const ENERGY_STEPS = 16;
export const ENERGY_METAL = 0;
export const ENERGY_METAL_MEAN = 1024;
export const ENERGY_FUZZ = 1088;
export const ENERGY_OUTER = 2112;
export const ENERGY_OUTER_MEAN = 18496;
export const ENERGY_GLASS = 19520;
export const ENERGY_GLASS_INSIDE = 35904;
export const ENERGY_SRGB = 52288; // 256 linear values of 8-bit sRGB
export const ENERGY_SIZE = 53312;

// Light
export const LIGHT_SIZE = 128;
export const LIGHT_KIND = 0;
export const LIGHT_FLAGS = 4;
export const LIGHT_EMISSION = 8; // rgb radiance, at its brightest
export const LIGHT_WEIGHT = 20; // for choosing: irradiance of sun and surroundings, intensity of all others
export const LIGHT_POSITION = 24;
export const LIGHT_X = 36; // half edges; a disc's and spot's radii, a tube's half length
export const LIGHT_Y = 48;
export const LIGHT_NORMAL = 60; // where it shines; of a sun, towards it
export const LIGHT_RADIUS = 76;
export const LIGHT_INSTANCE = 80;
export const LIGHT_COS_OUTER = 84; // of a spot's cone and a sun's radius
export const LIGHT_COS_INNER = 88;
export const LIGHT_GRID = 92; // tangent of the angle at which a grid lets nothing through, 0 without
export const LIGHT_GRADIENT = 96; // share of its radiance that a panel lacks at its corners
export const LIGHT_GROUP = 100;
export const LIGHT_TRAIL = 104; // way down the light tree, one bit a level, 1 is right
export const LIGHT_SOFT = 108; // part of a panel or disc over which it fades out towards its edge
export const LIGHT_SEEN = 1; // flags
export const LIGHT_SHADOWLESS = 2; // from LINKS_SHIFT on the bit that parts have which it lights; none where it lights all
export const KIND_PANEL = 0;
export const KIND_DISC = 1;
export const KIND_TUBE = 2;
export const KIND_BULB = 3;
export const KIND_SPOT = 4;
export const KIND_PART = 5;
export const KIND_SUN = 6;
export const KIND_SURROUNDINGS = 7;

// Light tree node: bounds of place, direction and intensity of the lights below
//   0 low xyz  12 high xyz  24 intensity  28 axis xyz  40 cosine of the spread of axes  44 cosine of the emission beyond
//   48 left child or LEAF | light  52 right child
export const LIGHT_NODE_SIZE = 64;

// Guide: a sphere about something that shines from within clear matter, towards which directions are tried; or about something
// that shines out of focus, for which points of the lens are tried
//   0 centre xyz  12 radius  16 intensity; of lamps also 20 radius for places within lenses, or 0; of the lens also where the picture may show it blurred: 20 slopes of the line of sight to
//   the right and up  28 how far around, squared
export const GUIDE_SIZE = 32;

// Surroundings: equirectangular picture, top row first, and what choosing from it needs; one pixel for one colour everywhere
export const SKY_SIZE = 48;
export const SKY_PIXELS = 0;
export const SKY_WIDTH = 4;
export const SKY_HEIGHT = 8;
export const SKY_ROWS = 12; // cumulative, height + 1
export const SKY_COLUMNS = 16; // cumulative, height rows of width + 1
export const SKY_WEIGHT = 20; // sum before normalising
export const SKY_MEAN = 24; // mean luminance over the sphere

// Texture: rows of linear rgba floats or 8-bit sRGB, level by level from the full size
//   0 width  4 height  8 levels  12 encoding  16 pixels* of every level (12)
export const TEXTURE_SIZE = 64;
export const TEXTURE_LEVELS = 12;
export const TEXTURE_PIXELS = 16;
export const ENCODING_SRGB8 = 0;
export const ENCODING_LINEAR8 = 1;
/** Half floats of four values. */
export const ENCODING_HALF = 2;

// Scene: one record for every slice of the time the shutter is open, one after another
export const SCENE_SIZE = 448;
export const SCENE_INSTANCES = 0;
export const SCENE_INSTANCE_COUNT = 4;
export const SCENE_ROOT = 8;
export const SCENE_ENERGY = 12;
export const SCENE_SLICES = 16;
export const SCENE_LIGHTS = 20;
export const SCENE_LIGHT_COUNT = 24;
export const SCENE_SKY = 28;
export const SCENE_SKY_TURN = 32;
export const SCENE_SKY_TILTED = 36; // whether the surroundings are tilted
export const SCENE_BEHIND = 40; // BEHIND_…
export const SCENE_BEHIND_COLOR = 44; // of what is seen behind, or what its picture is multiplied by
export const SCENE_LAMPS = 56; // lights from the first on that rays can hit
export const SCENE_LOCAL_LIGHTS = 60; // lamps and parts: what the light tree holds
export const SCENE_LIGHT_TREE = 64; // root*, 0 for none
export const SCENE_GUIDES = 68;
export const SCENE_GUIDE_COUNT = 72;
export const SCENE_MOVING = 76; // instances that move
export const SCENE_MOVED = 80; // MOVED_SIZE for each of them, for each worker
export const SCENE_LENS_GUIDES = 84;
export const SCENE_LENS_GUIDE_COUNT = 88;
// Camera at the beginning and the end of the slice: position, right, up, forward, tangents of the half angles of view,
// lens radius, focus distance (16 floats each)
export const SCENE_CAMERA = 96;
export const CAMERA_SIZE = 64;
export const CAMERA_RIGHT = 12;
export const CAMERA_UP = 24;
export const CAMERA_FORWARD = 36;
export const CAMERA_TAN_X = 48;
export const CAMERA_TAN_Y = 52;
export const CAMERA_LENS = 56;
export const CAMERA_FOCUS = 60;
export const SCENE_NEXT_CAMERA = 224; // on the next frame
export const SCENE_BLADES = 288; // 0 for a round aperture
export const SCENE_BLADE_TURN = 292;
export const SCENE_ORTHOGRAPHIC = 296; // tangents are half sizes in mm
export const SCENE_FILM = 300;
export const SCENE_WIDTH = 304;
export const SCENE_HEIGHT = 308;
export const SCENE_SAMPLES = 312; // most of a pixel
export const SCENE_PASS = 316; // samples that a pass adds to a pixel
export const SCENE_SEED = 320;
export const SCENE_DEPTH = 324;
export const SCENE_SPECK = 328;
export const SCENE_SAMPLE_BITS = 332; // the samples of a pixel are a power of two apart in the sequence
export const SCENE_FOG = 336; // extinction rgb per mm
export const SCENE_FOG_ALBEDO = 348; // rgb
export const SCENE_FOG_ANISOTROPY = 360;
export const SCENE_GROUPS = 364; // light layers
export const SCENE_LAYERS = 368; // LAYER_… bits
export const SCENE_PIXEL = 372; // floats a pixel of the film takes
export const SCENE_OCCLUSION = 376; // reach of ambient occlusion in mm
export const SCENE_FOG_REACH = 380; // mm of fog a ray passes at most, towards the surroundings too
export const SCENE_SKY_GAIN = 384; // rgb that the surroundings are multiplied by
export const SCENE_SKY_TURN_COSINE = 396; // with the three that follow, for surroundings that are tilted
export const SCENE_SKY_TURN_SINE = 400;
export const SCENE_SKY_TILT_COSINE = 404;
export const SCENE_SKY_TILT_SINE = 408;
export const SCENE_BEHIND_PICTURE = 412; // surroundings or texture that are seen behind
export const SCENE_BEHIND_TURN = 416; // of a picture all around
export const SCENE_BEHIND_FIT = 420; // parts of a plate's width and height that the frame shows (2)
export const SCENE_BY_CHANCE = 428; // not 0: light is met by chance alone, none of it is sampled. The same picture by fewer ways, for tests
export const SCENE_UNSHADOWED = 432; // whether some part throws no shadow
export const SCENE_SHADE = 436; // how strong shadows are on what is seen behind, from 0 to 1
export const SCENE_CUTS = 440;
export const SCENE_CUT_COUNT = 444;
export const BEHIND_SURROUNDINGS = 0;
export const BEHIND_COLOR = 1;
export const BEHIND_TRANSPARENT = 2;
export const BEHIND_PICTURE = 3; // a picture all around that lights nothing
export const BEHIND_PLATE = 4; // a picture that fills the frame

// Film: floats per pixel, sums over samples unless said otherwise. What every film has:
//   0 r g b alpha   4 normal xyz   7 length of the ray in mm   8 albedo rgb   11 part (u32, 0 for none, the first that was met)
//   12 samples that met a part   13 squares of luminance   14 samples   15 luminance of every fifth sample (5)
//   20 squares of normal, albedo and length, for the noise of the guides (3)   23 distance along the camera's axis in mm
// Then, by the bits of SCENE_LAYERS and in this order: position xyz; motion xy in pixels; emission rgb; shadow (light with and
// without what stands in its way); ambient occlusion; Cryptomatte of parts, then of finishes (MATTE_RANKS of u32 id and weight);
// what is seen behind rgb and how much of it is covered; rgb of every light group.
// Divided by `averageFilm`: means; 13 is then the standard deviation of the mean luminance.
export const FILM_FLOATS = 24;
export const FILM_PART = 11;
export const FILM_MET = 12;
export const FILM_SQUARES = 13;
export const FILM_SAMPLES = 14;
export const FILM_BUCKETS = 15;
export const BUCKETS = 5;
export const FILM_GUIDE_SQUARES = 20;
export const FILM_AXIS = 23;
export const LAYER_POSITION = 1;
export const LAYER_MOTION = 2;
export const LAYER_EMISSION = 4;
export const LAYER_SHADOW = 8;
export const LAYER_OCCLUSION = 16;
export const LAYER_MATTES = 32;
export const LAYER_LIGHTS = 64;
export const LAYER_BEHIND = 128;
export const MATTE_RANKS = 6;
/** Most light layers of a film. */
export const MOST_GROUPS = 64;

// Bytes of private scratch every worker needs: two traversal stacks, light of each group, media the path is
// in, shading points, two finishes with their maps and a shading point aside, known surfaces, numbers of four dimensions
export const SCRATCH_SIZE = 65536;
export const SCRATCH_MESH_STACK = 30720;
export const SCRATCH_GROUPS = 61440;
export const SCRATCH_MEDIA = 62208;
export const SCRATCH_POINTS = 62464;
export const SCRATCH_FINISH = 62848;
export const SCRATCH_KNOWN = 63488;
export const SCRATCH_DRAWN = 65504;

// Planes of the noise filter, f32 each, (width rounded up to 4, plus two margins) × (height plus two margins), in this order:
//   light r g b   variance   normal x y z   albedo r g b   depth   luminance   filtered light r g b   filtered variance
//   variances of normal, albedo, depth   difference of light   sum of weights
// Margins hold a normal that no surface has, so that nothing is taken from there.
export const FILTER_MARGIN = 32;
export const FILTER_PLANES = 21;
export const FILTER_LEVELS = 5;
