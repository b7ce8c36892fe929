using YardRelay.Core.Swaps;

namespace YardRelay.Core.Checklists;

/// <summary>What is known of a swap that a step's condition may ask for.</summary>
/// <param name="Role">What the person does; null: not known.</param>
/// <param name="OldPlatform">linux, windows or mac, as the roster says it or a survey found it; null: not known.</param>
/// <param name="NewPlatform">The same of the new computer.</param>
/// <param name="IsSealed">The parcel is sealed, or will be.</param>
/// <param name="Programs">Names of the programs that the survey found on the old computer; empty: none, or not looked at.</param>
public sealed record StepSubject(
    SwapKind Kind, string? Site = null, string? Room = null, string? Department = null, string? OldModel = null, string? NewModel = null,
    IReadOnlyList<string>? Programs = null, string? Role = null, string? OldPlatform = null, string? NewPlatform = null,
    bool IsSealed = false);

/// <summary>
/// Where a step is needed: all that is asked for must hold, and of each list one entry is enough. Texts are compared without case; <c>*</c>
/// stands for any characters.
/// </summary>
/// <param name="Answers">Answers of earlier steps by their key. Of a step without an answer: <c>done</c> or <c>not-applicable</c>. One that
/// this swap has not has no answer.</param>
public sealed record StepCondition(
    IReadOnlyList<SwapKind> Kinds,
    IReadOnlyList<string> Sites,
    IReadOnlyList<string> Rooms,
    IReadOnlyList<string> Departments,
    IReadOnlyList<string> OldModels,
    IReadOnlyList<string> NewModels,
    IReadOnlyList<string> Programs,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Answers,
    IReadOnlyList<string> Roles,
    IReadOnlyList<string> OldPlatforms,
    IReadOnlyList<string> NewPlatforms)
{
    /// <summary>Whether it holds.</summary>
    /// <param name="earlier">How the earlier steps of the swap stand.</param>
    public bool Holds(StepSubject subject, IReadOnlyDictionary<string, StepState> earlier) =>
        (Kinds.Count == 0 || Kinds.Contains(subject.Kind))
        && Any(Sites, subject.Site) && Any(Rooms, subject.Room) && Any(Departments, subject.Department) && Any(OldModels, subject.OldModel)
            && Any(NewModels, subject.NewModel)
        && Any(Roles, subject.Role) && Any(OldPlatforms, subject.OldPlatform) && Any(NewPlatforms, subject.NewPlatform)
        && (Programs.Count == 0 || Programs.Any(p => subject.Programs?.Any(found => Fits(p, found)) == true))
        && Answers.All(a => earlier.TryGetValue(a.Key, out var state) && AnswerOf(state) is { } answer && Any(a.Value, answer));

    private static string? AnswerOf(StepState state) => state switch
    {
        StepState.Done done => done.Value ?? "done",
        StepState.NotApplicable => "not-applicable",
        _ => null,
    };

    private static bool Any(IReadOnlyList<string> patterns, string? text) =>
        patterns.Count == 0 || (text is not null && patterns.Any(p => Fits(p, text)));

    /// <summary>
    /// Whether a text fits a pattern. Goes back to the last star only, so the time is the product of the lengths at most.
    /// </summary>
    public static bool Fits(string pattern, string text)
    {
        var (p, t, star, from) = (0, 0, -1, 0);
        while (t < text.Length)
        {
            if (p < pattern.Length && pattern[p] == '*') (star, from) = (p++, t);
            else if (p < pattern.Length && char.ToUpperInvariant(pattern[p]) == char.ToUpperInvariant(text[t])) (p, t) = (p + 1, t + 1);
            else if (star >= 0) (p, t) = (star + 1, ++from);
            else return false;
        }
        while (p < pattern.Length && pattern[p] == '*') p++;
        return p == pattern.Length;
    }
}
