using System.Diagnostics.CodeAnalysis;
using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;
using System.Runtime.Intrinsics.X86;

namespace YardRelay.Carriage.Digests;

/// <summary>
/// The block function of SHA-256 (FIPS 180-4, section 6.2) for processors that have wide registers and no instructions for it: many
/// computers of the years that are swapped now.
/// Each word of a register belongs to another stream, so that eight streams take hardly longer than one; a stream by itself has its message
/// schedule made for eight of its blocks at once.
/// Only whole blocks and states come and go here; lengths and padding are <see cref="DigestSeat"/>'s.
/// </summary>
internal static unsafe class Sha256Blocks
{
    /// <summary>Streams side by side.</summary>
    public const int Width = 8;

    /// <summary>Bytes of a block.</summary>
    public const int Bytes = 64;

    /// <summary>Words of a state.</summary>
    public const int StateWords = 8;

    // Leaf 7 of CPUID tells of SHA instructions by bit 29 of EBX (Intel SDM, volume 2A).
    private const int ShaBit = 1 << 29;

    /// <summary>Whether this processor can do it. Where it cannot, nothing here may be called.</summary>
    public static bool IsSupported => Avx2.IsSupported;

    /// <summary>
    /// Whether it is faster here than the platform's own SHA-256, which uses the processor's instructions where there are any.
    /// </summary>
    public static bool IsWorthIt { get; } = Avx2.IsSupported && X86Base.CpuId(0, 0).Eax >= 7 && (X86Base.CpuId(7, 0).Ebx & ShaBit) == 0;

    /// <summary>Section 5.3.3: the state before the first block.</summary>
    public static ReadOnlySpan<uint> Start =>
        [0x6a09e667, 0xbb67ae85, 0x3c6ef372, 0xa54ff53a, 0x510e527f, 0x9b05688c, 0x1f83d9ab, 0x5be0cd19];

    // Section 4.2.2.
    private static ReadOnlySpan<uint> K =>
    [
        0x428a2f98, 0x71374491, 0xb5c0fbcf, 0xe9b5dba5, 0x3956c25b, 0x59f111f1, 0x923f82a4, 0xab1c5ed5, 0xd807aa98, 0x12835b01, 0x243185be,
        0x550c7dc3, 0x72be5d74, 0x80deb1fe, 0x9bdc06a7, 0xc19bf174,
        0xe49b69c1, 0xefbe4786, 0x0fc19dc6, 0x240ca1cc, 0x2de92c6f, 0x4a7484aa, 0x5cb0a9dc, 0x76f988da, 0x983e5152, 0xa831c66d, 0xb00327c8,
        0xbf597fc7, 0xc6e00bf3, 0xd5a79147, 0x06ca6351, 0x14292967,
        0x27b70a85, 0x2e1b2138, 0x4d2c6dfc, 0x53380d13, 0x650a7354, 0x766a0abb, 0x81c2c92e, 0x92722c85, 0xa2bfe8a1, 0xa81a664b, 0xc24b8b70,
        0xc76c51a3, 0xd192e819, 0xd6990624, 0xf40e3585, 0x106aa070,
        0x19a4c116, 0x1e376c08, 0x2748774c, 0x34b0bcb5, 0x391c0cb3, 0x4ed8aa4a, 0x5b9cca4f, 0x682e6ff3, 0x748f82ee, 0x78a5636f, 0x84c87814,
        0x8cc70208, 0x90befffa, 0xa4506ceb, 0xbef9a3f7, 0xc67178f2,
    ];

    /// <summary>Takes as many blocks of each of eight streams.</summary>
    /// <param name="states">Eight by eight words: the first word of each stream, then the second of each, and so on.</param>
    /// <param name="at">Where the blocks of each stream begin; eight, and a stream may come more than once.</param>
    /// <param name="blocks">How many of each, 0 or more.</param>
    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    public static void Together(uint* states, byte** at, int blocks)
    {
        var s = (Vector256<uint>*)states;
        var w = stackalloc Vector256<uint>[16];
        var from = stackalloc byte*[Width];
        for (var stream = 0; stream < Width; stream++) from[stream] = at[stream];
        Vector256<uint> a = s[0], b = s[1], c = s[2], d = s[3], e = s[4], f = s[5], g = s[6], h = s[7];
        fixed (uint* k = K)
            for (; blocks > 0; blocks--)
            {
                Load(w, from);
                for (var stream = 0; stream < Width; stream++) from[stream] += Bytes;
                for (var t = 0; t < 64; t += 8)
                {
                    if (t >= 16)
                        for (var next = t; next < t + 8; next++) Schedule(w, next);
                    var x = w + (t & 15);
                    var y = k + t;
                    Round(a, b, c, ref d, e, f, g, ref h, x[0] + Vector256.Create(y[0]));
                    Round(h, a, b, ref c, d, e, f, ref g, x[1] + Vector256.Create(y[1]));
                    Round(g, h, a, ref b, c, d, e, ref f, x[2] + Vector256.Create(y[2]));
                    Round(f, g, h, ref a, b, c, d, ref e, x[3] + Vector256.Create(y[3]));
                    Round(e, f, g, ref h, a, b, c, ref d, x[4] + Vector256.Create(y[4]));
                    Round(d, e, f, ref g, h, a, b, ref c, x[5] + Vector256.Create(y[5]));
                    Round(c, d, e, ref f, g, h, a, ref b, x[6] + Vector256.Create(y[6]));
                    Round(b, c, d, ref e, f, g, h, ref a, x[7] + Vector256.Create(y[7]));
                }
                s[0] = a += s[0];
                s[1] = b += s[1];
                s[2] = c += s[2];
                s[3] = d += s[3];
                s[4] = e += s[4];
                s[5] = f += s[5];
                s[6] = g += s[6];
                s[7] = h += s[7];
            }
    }

    /// <summary>Takes blocks of one stream.</summary>
    /// <param name="state">Its eight words.</param>
    /// <param name="at">Where its blocks begin.</param>
    /// <param name="blocks">How many, 0 or more.</param>
    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    public static void Alone(uint* state, byte* at, int blocks)
    {
        var w = stackalloc Vector256<uint>[16];
        // Word t of each of eight blocks, its constant added.
        var ready = stackalloc Vector256<uint>[64];
        var from = stackalloc byte*[Width];
        fixed (uint* k = K)
            while (blocks > 0)
            {
                var some = Math.Min(Width, blocks);
                for (var block = 0; block < Width; block++) from[block] = at + (block < some ? block * Bytes : 0);
                Load(w, from);
                for (var t = 0; t < 64; t++)
                {
                    if (t >= 16) Schedule(w, t);
                    ready[t] = w[t & 15] + Vector256.Create(k[t]);
                }
                for (var block = 0; block < some; block++) Rounds(state, (uint*)ready + block);
                at += some * Bytes;
                blocks -= some;
            }
    }

    /// <param name="state">Eight words.</param>
    /// <param name="ready">The 64 words of its schedule with their constants, each <see cref="Width"/> words behind the one before.</param>
    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    private static void Rounds(uint* state, uint* ready)
    {
        uint a = state[0], b = state[1], c = state[2], d = state[3], e = state[4], f = state[5], g = state[6], h = state[7];
        for (var t = 0; t < 64; t += 8, ready += 8 * Width)
        {
            Round(a, b, c, ref d, e, f, g, ref h, ready[0]);
            Round(h, a, b, ref c, d, e, f, ref g, ready[Width]);
            Round(g, h, a, ref b, c, d, e, ref f, ready[2 * Width]);
            Round(f, g, h, ref a, b, c, d, ref e, ready[3 * Width]);
            Round(e, f, g, ref h, a, b, c, ref d, ready[4 * Width]);
            Round(d, e, f, ref g, h, a, b, ref c, ready[5 * Width]);
            Round(c, d, e, ref f, g, h, a, ref b, ready[6 * Width]);
            Round(b, c, d, ref e, f, g, h, ref a, ready[7 * Width]);
        }
        state[0] += a;
        state[1] += b;
        state[2] += c;
        state[3] += d;
        state[4] += e;
        state[5] += f;
        state[6] += g;
        state[7] += h;
    }

    // Section 6.2.2, step 3; the words change their names instead of their places.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Round(uint a, uint b, uint c, ref uint d, uint e, uint f, uint g, ref uint h, uint ready)
    {
        h += ready + ((e & f) + (~e & g));
        h += BitOperations.RotateRight(e, 6) ^ BitOperations.RotateRight(e, 11) ^ BitOperations.RotateRight(e, 25);
        d += h;
        h += (a & b) + (c & (a ^ b))
            + (BitOperations.RotateRight(a, 2) ^ BitOperations.RotateRight(a, 13) ^ BitOperations.RotateRight(a, 22));
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Round(
        Vector256<uint> a, Vector256<uint> b, Vector256<uint> c, ref Vector256<uint> d, Vector256<uint> e, Vector256<uint> f,
        Vector256<uint> g, ref Vector256<uint> h, Vector256<uint> ready)
    {
        h += Xor(Right(e, 6), Right(e, 11), Right(e, 25)) + Choose(e, f, g) + ready;
        d += h;
        h += Xor(Right(a, 2), Right(a, 13), Right(a, 22)) + Majority(a, b, c);
    }

    // Step 1: word t from those 2, 7, 15 and 16 before it, in the place of the last.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Schedule(Vector256<uint>* w, int t)
    {
        var (two, fifteen) = (w[(t - 2) & 15], w[(t - 15) & 15]);
        w[t & 15] += Xor(Right(fifteen, 7), Right(fifteen, 18), fifteen >>> 3) + w[(t - 7) & 15]
            + Xor(Right(two, 17), Right(two, 19), two >>> 10);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<uint> Right(Vector256<uint> x, [ConstantExpected] byte bits) =>
        Avx512F.VL.IsSupported ? Avx512F.VL.RotateRight(x, bits) : (x >>> bits) | (x << (32 - bits));

    // The last number says what comes out for each of the eight ways in which three bits can stand.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<uint> Xor(Vector256<uint> x, Vector256<uint> y, Vector256<uint> z) =>
        Avx512F.VL.IsSupported ? Avx512F.VL.TernaryLogic(x, y, z, 0x96) : x ^ y ^ z;

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<uint> Choose(Vector256<uint> x, Vector256<uint> y, Vector256<uint> z) =>
        Avx512F.VL.IsSupported ? Avx512F.VL.TernaryLogic(x, y, z, 0xCA) : z ^ (x & (y ^ z));

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static Vector256<uint> Majority(Vector256<uint> x, Vector256<uint> y, Vector256<uint> z) =>
        Avx512F.VL.IsSupported ? Avx512F.VL.TernaryLogic(x, y, z, 0xE8) : (x & y) | (z & (x | y));

    /// <summary>Loads a block of each of eight places; afterwards the first register has the first word of each, and so on.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Load(Vector256<uint>* w, byte** at)
    {
        LoadHalf(w, at, 0);
        LoadHalf(w + 8, at, Bytes / 2);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void LoadHalf(Vector256<uint>* w, byte** at, int from)
    {
        // Words stand with their highest byte first.
        var turn = Vector256.Create(
            (byte)3, 2, 1, 0, 7, 6, 5, 4, 11, 10, 9, 8, 15, 14, 13, 12, 3, 2, 1, 0, 7, 6, 5, 4, 11, 10, 9, 8, 15, 14, 13, 12);
        var (r0, r1, r2, r3) = (Row(0), Row(1), Row(2), Row(3));
        var (r4, r5, r6, r7) = (Row(4), Row(5), Row(6), Row(7));
        var (t0, t1, t2, t3) = (Avx2.UnpackLow(r0, r1), Avx2.UnpackHigh(r0, r1), Avx2.UnpackLow(r2, r3), Avx2.UnpackHigh(r2, r3));
        var (t4, t5, t6, t7) = (Avx2.UnpackLow(r4, r5), Avx2.UnpackHigh(r4, r5), Avx2.UnpackLow(r6, r7), Avx2.UnpackHigh(r6, r7));
        var (u0, u1, u2, u3) = (Low(t0, t2), High(t0, t2), Low(t1, t3), High(t1, t3));
        var (u4, u5, u6, u7) = (Low(t4, t6), High(t4, t6), Low(t5, t7), High(t5, t7));
        (w[0], w[1], w[2], w[3]) = (Firsts(u0, u4), Firsts(u1, u5), Firsts(u2, u6), Firsts(u3, u7));
        (w[4], w[5], w[6], w[7]) = (Seconds(u0, u4), Seconds(u1, u5), Seconds(u2, u6), Seconds(u3, u7));
        Vector256<uint> Row(int stream) => Avx2.Shuffle(Vector256.Load(at[stream] + from), turn).AsUInt32();
        static Vector256<uint> Low(Vector256<uint> x, Vector256<uint> y) => Avx2.UnpackLow(x.AsUInt64(), y.AsUInt64()).AsUInt32();
        static Vector256<uint> High(Vector256<uint> x, Vector256<uint> y) => Avx2.UnpackHigh(x.AsUInt64(), y.AsUInt64()).AsUInt32();
        static Vector256<uint> Firsts(Vector256<uint> x, Vector256<uint> y) => Avx2.Permute2x128(x, y, 0x20);
        static Vector256<uint> Seconds(Vector256<uint> x, Vector256<uint> y) => Avx2.Permute2x128(x, y, 0x31);
    }
}
