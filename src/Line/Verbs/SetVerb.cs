using System.CommandLine;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>A thing of a refresh before and after it was set.</summary>
/// <param name="Before">Null: there was none.</param>
internal sealed record WasSet<T>(T? Before, T After) where T : class;

/// <summary>Sets a thing that the plan goes by: what is left out stays as it is, and what was changed is shown, before and after.</summary>
internal static partial class SetVerb
{
    /// <param name="parts">Arguments and options; what only a new thing must have is asked for with <see cref="Must{T}"/>.</param>
    /// <param name="stands">The thing as it stands; null: there is none yet.</param>
    /// <param name="put">Sets it; it is given what stands.</param>
    /// <param name="wanted">The names of what can be set are those of this shape.</param>
    public static Command Create<T>(
        string does,
        string example,
        IEnumerable<Symbol> parts,
        Func<WorldSeen, ParseResult, T?> stands,
        Func<YardClient, string, ParseResult, T?, CancellationToken, Task<Result<T>>> put,
        Type wanted,
        Action<T> say) where T : class =>
        Call.Command<WasSet<T>>("set", $"{does} What is left out stays as it is.", example, parts, async (c, r, a, cancel) =>
        {
            if (!(await c.WorldAsync(r, cancel)).TryGet(out var world, out var refused)) return refused;
            var before = stands(world, a);
            try
            {
                return (await put(c, r, a, before, cancel)).TryGet(out var after, out var problem)
                    ? new WasSet<T>(before, after)
                    : problem;
            }
            catch (NotGivenException missing)
            {
                return new NotGivenProblem(missing.Option);
            }
        }, set =>
        {
            say(set.After);
            ShowChanges(set, wanted);
        });

    /// <summary>What was changed, before and after.</summary>
    public static void ShowChanges<T>(WasSet<T> set, Type wanted) where T : class
    {
        if (set.Before is not { } before) return;
        var changes = Changes(before, set.After, wanted).ToList();
        foreach (var change in changes) Tables.Say($"  {change}");
        if (changes.Count == 0) Tables.Say("  It was so already.");
    }

    private sealed class NotGivenException(string option) : Exception
    {
        public string Option => option;
    }

    /// <summary>What was given, else what stands.</summary>
    public static T? Or<T>(this ParseResult args, Option<T> option, T? stands) => IsGiven(args, option) ? args.GetValue(option) : stands;

    /// <summary>The same of a list; an empty text takes all out of it.</summary>
    public static IReadOnlyList<string> Or(this ParseResult args, Option<string[]> option, IReadOnlyList<string>? stands) =>
        IsGiven(args, option) || stands is null ? [.. (args.GetValue(option) ?? []).Where(t => t.Length > 0)] : stands;

    /// <summary>The same of a text that may be taken out by an empty one.</summary>
    public static string? OrNone(this ParseResult args, Option<string?> option, string? stands) =>
        args.Or(option, stands) is { Length: > 0 } text ? text : null;

    /// <summary>The same of what a new thing must have.</summary>
    public static T Must<T>(this ParseResult args, Option<T> option, T? stands) where T : class =>
        args.Or(option, stands) ?? throw new NotGivenException(option.Name);

    /// <summary>The same of a day.</summary>
    public static DateOnly MustDay(this ParseResult args, Option<DateOnly?> option, DateOnly? stands) =>
        args.Or(option, stands) ?? throw new NotGivenException(option.Name);

    /// <summary>Whether an option was written, and is not only as it is by itself.</summary>
    public static bool IsGiven(ParseResult args, Option option) => args.GetResult(option) is { Implicit: false };

    private static IEnumerable<string> Changes<T>(T before, T after, Type wanted)
    {
        var (was, isNow) = (Of(before), Of(after));
        foreach (var property in wanted.GetProperties())
        {
            var name = JsonNamingPolicy.CamelCase.ConvertName(property.Name);
            if (!isNow.ContainsKey(name)) continue;
            var (old, now) = (Words(was[name]), Words(isNow[name]));
            if (old != now) yield return $"{Humps().Replace(name, m => " " + m.Value.ToLowerInvariant())}: {old} → {now}";
        }

        static JsonObject Of(T thing) => JsonSerializer.SerializeToNode(thing, YardClient.Json)!.AsObject();
    }

    private static string Words(JsonNode? value) => value switch
    {
        null => "nothing",
        JsonArray { Count: 0 } => "nothing",
        JsonArray list => string.Join(", ", list.Select(Words)),
        JsonObject thing => string.Join(" ", thing.Select(p => Words(p.Value))),
        _ => value.ToString(),
    };

    [GeneratedRegex("[A-Z]")]
    private static partial Regex Humps();
}
