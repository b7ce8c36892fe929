using System.CommandLine;
using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>
/// Takes out a thing that the plan goes by. One that is not there is said, with those that are: a slip of the pen must not look like
/// success.
/// </summary>
internal static class DropVerb
{
    /// <param name="verb">The command it stands under, such as <c>closure</c>.</param>
    /// <param name="plural">How the API calls them.</param>
    /// <param name="keys">Those that there are.</param>
    /// <param name="does">What the help says; left out: that it is taken out.</param>
    /// <param name="example">A key for the help.</param>
    /// <param name="done">What is said afterwards.</param>
    /// <param name="noun">What one is called, where that is not the command.</param>
    public static Command Create(
        string verb,
        string plural,
        Func<WorldSeen, IEnumerable<string>> keys,
        string? does = null,
        string example = "KEY",
        string? done = null,
        string? noun = null)
    {
        var what = noun ?? verb;
        var key = new Argument<string>("key") { Description = $"Its key, as 'yardline {verb} list' shows it." };
        var yes = Sure.Option;
        return Call.Command<JsonElement>("drop", does ?? $"Takes a {what} out.", $"yardline {verb} drop {example} --yes", [key, yes],
            async (c, r, a, cancel) =>
        {
            if (!(await c.WorldAsync(r, cancel)).TryGet(out var world, out var problem)) return problem;
            var (wanted, known) = (a.GetValue(key)!, keys(world).ToList());
            if (known.Find(k => string.Equals(k, wanted, StringComparison.OrdinalIgnoreCase)) is not { } found)
                return new NothingToDrop(verb, what, wanted, known);
            return Sure.Against(a, yes, $"The {what} '{found}' goes with all that was set for it.") is { } no
                ? no
                : await c.DropAsync(r, plural, found, cancel);
        }, _ => Tables.Say(done ?? $"That {what} is out."));
    }
}
