using System.Text;

namespace YardRelay.Service.Accounts;

/// <summary>
/// What whoever guesses tries first: a common word with digits and signs around it, its letters written as digits, a row of keys, a piece
/// over and over. The words are in <c>common-passwords.txt</c>.
/// </summary>
internal static class CommonPasswords
{
    private const int ShortPiece = 4;
    private static readonly HashSet<string> Words = Read();
    private static readonly string[] Rows =
    [
        "01234567890123456789", "98765432109876543210", "abcdefghijklmnopqrstuvwxyz", "qwertyuiopasdfghjklzxcvbnm",
        "qwertzuiopasdfghjklyxcvbnm", "azertyuiopqsdfghjklmwxcvbn", "1qaz2wsx3edc4rfv5tgb6yhn", "1q2w3e4r5t6y7u8i9o0p"
    ];

    /// <summary>Whether it is one of them.</summary>
    /// <param name="account">Name of the account that it is for: that is a common word there.</param>
    public static bool Has(string password, string account)
    {
        var plain = Plain(password);
        if (IsPieces(plain) || Rows.Any(r => r.Contains(plain, StringComparison.Ordinal))) return true;
        var word = Letters(plain);
        return word.Length == 0 || Words.Contains(word) || word == Letters(Plain(account))
            || (word.Length > 3 && Rows.Any(r => r.Contains(word, StringComparison.Ordinal)));
    }

    private static string Plain(string text) => new([.. text.ToLowerInvariant().Where(char.IsLetterOrDigit)]);

    /// <summary>The word in it: without digits around it, and with the letters that digits inside it stand for.</summary>
    private static string Letters(string plain)
    {
        var word = plain.Trim('0', '1', '2', '3', '4', '5', '6', '7', '8', '9');
        var read = new StringBuilder(word.Length);
        foreach (var c in word)
            read.Append(c switch { '0' => 'o', '1' => 'i', '3' => 'e', '4' => 'a', '5' => 's', '7' => 't', '8' => 'b', _ => c });
        return read.ToString();
    }

    /// <summary>The shortest piece that it repeats; itself where it repeats none.</summary>
    private static string Piece(string text)
    {
        for (var length = 1; length <= text.Length / 2; length++)
            if (text.Length % length == 0 && text == string.Concat(Enumerable.Repeat(text[..length], text.Length / length)))
                return text[..length];
        return text;
    }

    /// <summary>Whether it is a short piece, or a common word, over and over.</summary>
    private static bool IsPieces(string text)
    {
        var piece = Piece(text);
        return piece.Length < text.Length && (piece.Length <= ShortPiece || Words.Contains(Letters(piece)));
    }

    private static HashSet<string> Read()
    {
        using var stream = typeof(CommonPasswords).Assembly.GetManifestResourceStream(
            "YardRelay.Service.Accounts.common-passwords.txt")!;
        using var reader = new StreamReader(stream);
        return [.. reader.ReadToEnd().Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Where(l => l[0] != '#')];
    }
}
