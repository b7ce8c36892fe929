namespace YardRelay.Core;

/// <summary>What somebody gives as the reason for something that others have to live with.</summary>
public static class Reasons
{
    /// <summary>Most characters of one.</summary>
    public const int Most = 500;

    // 'x', 'ok', '-----' and 'aaaaaaaa' say nothing; 'not needed' does.
    private const int LeastLetters = 6;
    private const int LeastKinds = 4;

    /// <summary>Whether a text can be a reason at all: some letters, not all the same. Whether it is a good one, people tell.</summary>
    public static bool SaysSomething(string? text)
    {
        if (text is null || text.Trim().Length > Most) return false;
        var letters = text.Where(char.IsLetterOrDigit).Select(char.ToLowerInvariant).ToList();
        // Some scripts say more with a letter.
        return letters.Count >= LeastLetters && letters.Distinct().Count() >= LeastKinds
            || letters.Count >= 2 && letters.Exists(c => c is >= '\u2E80' and < '\uFB00');
    }
}
