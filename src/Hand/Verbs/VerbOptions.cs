using System.CommandLine;

namespace YardRelay.Hand.Verbs;

/// <summary>Options that several verbs have, with one wording.</summary>
internal static class VerbOptions
{
    public static Option<string> From() => new("--from") { Description = "Folder to look at or carry; its content lies directly under data/ in the parcel.", Required = true };

    public static Option<string> Depot() => new("--depot") { Description = "file:///path for a folder, mounted share or disk; http(s)://host/path for a WebDAV share; sftp://user@host/path for a folder behind an SSH server. User and password in YARD_DEPOT_USER and YARD_DEPOT_PASSWORD; for SFTP also YARD_DEPOT_KEY (file of a private key) and YARD_DEPOT_HOSTKEY (SHA256:…).", Required = true };

    public static Option<string> Parcel() => new("--parcel") { Description = "Name of the parcel: a folder in the depot.", Required = true };

    public static Option<bool> Json() => new("--json") { Description = "One JSON object instead of text." };
}
