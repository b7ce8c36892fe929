using YardRelay.Records;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Days;

/// <summary>A day that has nothing to do with the refresh.</summary>
/// <param name="Starts">Day 0 of the refresh.</param>
internal sealed record DayTooFar(DateOnly Day, DateOnly Starts) : ServiceProblem(
    "day.far",
    $"{Day:yyyy-MM-dd} is more than ten years from the refresh, which starts on {Starts:yyyy-MM-dd}. Ask for a nearer day.",
    400)
{
    // Ten years: nobody looks farther from a refresh, and a calendar ends.
    private const int FarthestDays = 3_653;

    /// <summary>Whether a day is too far from a refresh to be asked for.</summary>
    public static bool Is(DateOnly day, RefreshRow refresh) => Math.Abs(day.DayNumber - refresh.Starts.DayNumber) > FarthestDays;
}
