using System.CommandLine;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Working;

namespace YardRelay.Hand.Verbs;

/// <summary>Options that several verbs have, with one wording.</summary>
internal static class VerbOptions
{
    public static Option<string> From() =>
        new("--from") { Description = "Folder to look at or carry; its content lies directly under data/ in the parcel.", Required = true };

    public static Option<string> Depot() =>
        new("--depot")
        {
            Description =
                "file:///path for a folder, mounted share or disk, file:///path#LABEL for a disk with that label; http(s)://host/path for "
                    + "a WebDAV share; sftp://user@host/path for a folder behind an SSH server; ?modes=group or ?modes=as-mounted "
                    + "behind the path of a folder lets others of its system in. User and password in YARD_DEPOT_USER and "
                    + "YARD_DEPOT_PASSWORD; for SFTP also YARD_DEPOT_KEY (file of a private key) and YARD_DEPOT_HOSTKEY (SHA256:…).",
            Required = true
        };

    public static Option<string> Parcel() =>
        new("--parcel") { Description = "Name of the parcel: a folder in the depot.", Required = true };

    public static Option<string[]> Limit() =>
        new("--limit")
        {
            Description =
                "How fast content may go: '200' for at most 200 Mbit/s, '08:00-18:00 40' in these hours, '08:00-18:00 none' for nothing "
                    + "then. Repeat for more."
        };

    /// <summary>Opens a depot behind the limits that were given; they follow the clock while the verb works.</summary>
    public static Result<IDepot> Limited(IDepot depot, IReadOnlyList<string>? limits, CancellationToken stop)
    {
        if (limits is not { Count: > 0 }) return Result<IDepot>.Of(depot);
        if (!RateRule.ParseAll(limits).TryGet(out var rules, out var wrong)) return wrong;
        var gate = new RateGate(ThreadWork.Here);
        Look();
        var clock = new Timer(_ => Look(), null, TimeSpan.FromSeconds(5), TimeSpan.FromSeconds(5));
        stop.Register(clock.Dispose);
        return new LimitedDepot(depot, gate);

        void Look() => gate.BytesPerSecond = RateRule.At(rules, (int)DateTime.Now.TimeOfDay.TotalMinutes);
    }

    public static Option<string?> SecondCopy() =>
        new("--second-copy") { Description = "Another depot that keeps the same parcel, so that one dead disk loses nothing." };

    public static Option<string[]> Identity() =>
        new("--identity") { Description = "File with a secret key that a sealed parcel is sealed to. Repeat for more." };

    public static Option<string?> Passphrase() =>
        new("--passphrase-file")
        {
            Description = "File whose first line is the passphrase of a sealed parcel; '-' reads it from the input."
        };

    /// <summary>The keys that a verb was given, or what is wrong with them.</summary>
    public static Result<SealKeys> Keys(IReadOnlyList<string>? files, string? passphraseFile)
    {
        var identities = new List<AgeIdentity>();
        foreach (var file in files ?? [])
        {
            if (!File.Exists(file)) return new KeyFileProblem(file);
            if (AgeIdentity.TryParseFile(File.ReadAllText(file)) is not { } keys)
                return new KeyFormProblem(file);
            identities.AddRange(keys);
        }
        var passphrase = ReadPassphrase(passphraseFile);
        return passphrase.IsOk ? new SealKeys(identities, passphrase.Value, SealKeys.UsualFolder) : passphrase.Problem;
    }

    /// <summary>The passphrase of a file; null where none is named.</summary>
    public static Result<string?> ReadPassphrase(string? file)
    {
        if (file is null) return Result<string?>.Of(null);
        if (file != "-" && !File.Exists(file)) return new PassphraseFileProblem(file);
        var line = file == "-" ? Console.In.ReadLine() : File.ReadLines(file).FirstOrDefault();
        return line is { Length: > 0 } ? line : new PassphraseEmptyProblem();
    }

    public static Option<bool> Json() => new("--json") { Description = "One JSON object instead of text." };
}
