using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.Intrinsics;

namespace Remedos.Bench.Probing;

/// <summary>
/// The heaviest work that a processor can be given: pairs of vectors that turn round and round, one multiplication and three fused ones a
/// pair. A turn changes no length, so
/// the numbers stay as large as they were, and every bit goes on changing; eight pairs that wait for nobody keep all its units filled.
/// </summary>
internal sealed class VectorWork(int number)
{
    private const int Pairs = 8;

    /// <summary>An angle that comes round to nothing, rad.</summary>
    private const float Angle = 0.7548777f;

    private readonly Vector512<float>[] _x =
    [
        .. Enumerable.Range(0, Pairs).Select(pair => Vector512.Create(1.0f + (0.01f * pair) + (0.001f * number))),
    ];
    private readonly Vector512<float>[] _y = [.. Enumerable.Range(0, Pairs).Select(pair => Vector512.Create(0.5f + (0.02f * pair)))];

    /// <summary>A number that depends on all that was done.</summary>
    public double Sum => Enumerable.Range(0, Pairs).Sum(pair => (double)Vector512.Sum(_x[pair]) + Vector512.Sum(_y[pair]));

    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    public void Go(int rounds)
    {
        Vector512<float> cosine = Vector512.Create(MathF.Cos(Angle)),
            sine = Vector512.Create(MathF.Sin(Angle)),
            back = -sine;
        (Vector512<float> x0, Vector512<float> x1, Vector512<float> x2, Vector512<float> x3) = (_x[0], _x[1], _x[2], _x[3]);
        (Vector512<float> x4, Vector512<float> x5, Vector512<float> x6, Vector512<float> x7) = (_x[4], _x[5], _x[6], _x[7]);
        (Vector512<float> y0, Vector512<float> y1, Vector512<float> y2, Vector512<float> y3) = (_y[0], _y[1], _y[2], _y[3]);
        (Vector512<float> y4, Vector512<float> y5, Vector512<float> y6, Vector512<float> y7) = (_y[4], _y[5], _y[6], _y[7]);
        for (int round = 0; round < rounds; round++)
        {
            Turn(ref x0, ref y0, cosine, sine, back);
            Turn(ref x1, ref y1, cosine, sine, back);
            Turn(ref x2, ref y2, cosine, sine, back);
            Turn(ref x3, ref y3, cosine, sine, back);
            Turn(ref x4, ref y4, cosine, sine, back);
            Turn(ref x5, ref y5, cosine, sine, back);
            Turn(ref x6, ref y6, cosine, sine, back);
            Turn(ref x7, ref y7, cosine, sine, back);
        }

        (_x[0], _x[1], _x[2], _x[3], _x[4], _x[5], _x[6], _x[7]) = (x0, x1, x2, x3, x4, x5, x6, x7);
        (_y[0], _y[1], _y[2], _y[3], _y[4], _y[5], _y[6], _y[7]) = (y0, y1, y2, y3, y4, y5, y6, y7);
        KeepLength();
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Turn(
        ref Vector512<float> x,
        ref Vector512<float> y,
        Vector512<float> cosine,
        Vector512<float> sine,
        Vector512<float> back
    )
    {
        Vector512<float> turned = Vector512.FusedMultiplyAdd(y, back, x * cosine);
        y = Vector512.FusedMultiplyAdd(x, sine, y * cosine);
        x = turned;
    }

    /// <summary>Rounding lengthens or shortens a pair in the course of hours: it is brought back to about one.</summary>
    private void KeepLength()
    {
        for (int pair = 0; pair < Pairs; pair++)
        {
            float square = (_x[pair][0] * _x[pair][0]) + (_y[pair][0] * _y[pair][0]);
            if (!(square is > 0.25f and < 4f))
            {
                (_x[pair], _y[pair]) = (Vector512.Create(1.0f), Vector512.Create(0.5f));
            }
        }
    }
}

/// <summary>Whole numbers in four chains that wait for nobody.</summary>
internal sealed class WholeWork(int number)
{
    private ulong _a = 0x9E3779B97F4A7C15UL * (ulong)(number + 1),
        _b = 0xBF58476D1CE4E5B9UL + (ulong)number,
        _c = 0x94D049BB133111EBUL ^ (ulong)number,
        _d = 0xD6E8FEB86659FD93UL - (ulong)number;

    /// <summary>A number that depends on all that was done.</summary>
    public double Sum => unchecked(_a + _b + _c + _d);

    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    public void Go(int rounds)
    {
        (ulong a, ulong b, ulong c, ulong d) = (_a, _b, _c, _d);
        for (int round = 0; round < rounds; round++)
        {
            a = Mix(a);
            b = Mix(b);
            c = Mix(c);
            d = Mix(d);
        }

        (_a, _b, _c, _d) = (a, b, c, d);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong Mix(ulong whole)
    {
        whole ^= whole << 13;
        whole ^= whole >> 7;
        return BitOperations.RotateLeft(whole * 0xD6E8FEB86659FD93UL, 17);
    }
}
