using System.Security.Cryptography;
using System.Text;

namespace YardRelay.Carriage.Depots.Sftp;

/// <summary>
/// OpenSSH's file of known hosts: sshd(8), "SSH_KNOWN_HOSTS FILE FORMAT"; plain and hashed names, no patterns and no certificates.
/// </summary>
internal static class KnownHosts
{
    /// <summary>Whether the text knows this key for this host. A key that is marked as revoked is not known.</summary>
    /// <param name="host">Name as it was asked for; port 22 goes without one.</param>
    /// <param name="key">The key as the server sent it.</param>
    public static bool Holds(string text, string host, int port, byte[] key)
    {
        var name = port == 22 ? host : $"[{host}]:{port}";
        var wanted = Convert.ToBase64String(key);
        var known = false;
        foreach (var line in text.Split('\n'))
        {
            var parts = line.Trim().Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (parts.Length == 0 || parts[0].StartsWith('#')) continue;
            var (mark, at) = parts[0].StartsWith('@') ? (parts[0], 1) : ("", 0);
            if (parts.Length < at + 3 || parts[at + 2] != wanted || !parts[at].Split(',').Any(n => Matches(n, name))) continue;
            if (mark == "@revoked") return false;
            known |= mark.Length == 0;
        }
        return known;
    }

    private static bool Matches(string written, string name)
    {
        if (!written.StartsWith("|1|", StringComparison.Ordinal)) return string.Equals(written, name, StringComparison.OrdinalIgnoreCase);
        // |1|salt|HMAC-SHA1 of the name: the form's own choice of digest, not ours.
        if (written[3..].Split('|') is not [var salt, var digest]) return false;
        try
        {
#pragma warning disable CA5350
            return CryptographicOperations.FixedTimeEquals(
                HMACSHA1.HashData(Convert.FromBase64String(salt), Encoding.UTF8.GetBytes(name)), Convert.FromBase64String(digest));
#pragma warning restore CA5350
        }
        catch (FormatException)
        {
            return false;
        }
    }
}
