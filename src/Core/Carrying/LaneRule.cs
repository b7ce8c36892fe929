namespace YardRelay.Core.Carrying;

/// <summary>
/// How many files go at once: many small ones over a slow link want many lanes, one big one over a fast link wants few.
/// Found by climbing: lanes are added while that makes the whole faster, taken back when it does not, and tried again now and then.
/// </summary>
/// <param name="Least">Never fewer; 1 or more.</param>
/// <param name="Most">Never more.</param>
public sealed class LaneRule(int Least, int Most)
{
    /// <summary>Looks that a found width is kept before another is tried.</summary>
    public const int Rest = 20;

    // A wider road must carry at least this part of what its width promises.
    private const double Worth = 0.3;

    // Less than all: what a host or another program takes of the processors is not there for more lanes either, and an odd number of large
    // files leaves one idle at the end.
    private const double Saturated = 0.75;
    private int _before;
    private double _rateBefore;
    private int _rest;

    /// <summary>Lanes now.</summary>
    public int Width { get; private set; } = Math.Clamp(Least, 1, Math.Max(1, Most));

    /// <summary>Looks at how it went since the last look, and sets the width anew.</summary>
    /// <param name="rate">How much was done in a second, in any measure that stays the same.</param>
    /// <param name="busy">Part of the computer's processors that this program used, 0 to 1: where it is all of them, more lanes only
    /// wait.</param>
    public int Look(double rate, double busy)
    {
        if (rate <= 0) return Width;
        if (_before > 0)
        {
            var worth = 1 + (Worth * (((double)Width / _before) - 1));
            if (rate < _rateBefore * worth)
            {
                (Width, _before, _rest) = (_before, 0, Rest);
                return Width;
            }
        }
        else if (_rest > 0 && --_rest > 0) return Width;
        if (busy >= Saturated || Width >= Most)
        {
            (_before, _rest) = (0, Rest);
            return Width;
        }
        (_before, _rateBefore) = (Width, rate);
        return Width = Math.Min(Most, Width * 2);
    }
}
