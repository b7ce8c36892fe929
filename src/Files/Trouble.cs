using System.Runtime.InteropServices;

namespace YardRelay.Files;

/// <summary>Why a call did not do what it was asked. Only <see cref="NotThere"/> says that something is absent.</summary>
public enum Fault
{
    /// <summary>It did.</summary>
    None,

    /// <summary>Nothing bears that name.</summary>
    NotThere,

    /// <summary>Something bears that name already.</summary>
    Taken,

    /// <summary>The account may not.</summary>
    Shut,

    /// <summary>Only the owner or an administrator may.</summary>
    NotOwner,

    /// <summary>Somebody has it open, or the server has not let go of it yet.</summary>
    InUse,

    /// <summary>The medium, or the server behind it, failed.</summary>
    Broken,

    /// <summary>It went away between two calls.</summary>
    GoneMeanwhile,

    /// <summary>The way to it runs through something that is no folder.</summary>
    NotAFolder,

    /// <summary>It is a folder, and a file was wanted.</summary>
    IsAFolder,

    /// <summary>The way to it runs through a link, or it is one.</summary>
    ThroughLink,

    /// <summary>Both ends must lie on one file system.</summary>
    OtherFileSystem,

    /// <summary>The file system cannot have that name, or does not know what was asked.</summary>
    Invalid,

    /// <summary>The name or the path is too long.</summary>
    NameTooLong,

    /// <summary>No room is left, or what the account may fill is used up.</summary>
    Full,

    /// <summary>The folder has names in it.</summary>
    NotEmpty,

    /// <summary>The file system has no such thing.</summary>
    NotSupported,

    /// <summary>No answer came in time.</summary>
    TimedOut,

    /// <summary>Anything else; <see cref="Trouble.Code"/> tells.</summary>
    Other,
}

/// <summary>Why a call did not do what it was asked.</summary>
/// <param name="Fault">The kind.</param>
/// <param name="Code">The system's own number for it; 0 where there is none.</param>
public readonly record struct Trouble(Fault Fault, int Code = 0)
{
    /// <summary>Whether the account may not.</summary>
    public bool IsForbidden => Fault is Fault.Shut or Fault.NotOwner;

    /// <summary>A sentence without its full stop: what was tried, and what the system says of it.</summary>
    public string Said(string what) => $"{what}: {Words}";

    private string Words => Code != 0 ? Marshal.GetPInvokeErrorMessage(Code) : Fault switch
    {
        Fault.None => "nothing is wrong",
        Fault.NotThere => "it is not there",
        Fault.Taken => "something bears that name already",
        Fault.Shut => "the account may not",
        Fault.NotOwner => "only its owner may",
        Fault.InUse => "it is in use",
        Fault.Broken => "the medium failed",
        Fault.GoneMeanwhile => "it went away meanwhile",
        Fault.NotAFolder => "a folder was wanted",
        Fault.IsAFolder => "a file was wanted",
        Fault.ThroughLink => "the way to it runs through a link",
        Fault.OtherFileSystem => "it lies on another file system",
        Fault.Invalid => "the file system cannot have that",
        Fault.NameTooLong => "the name is too long",
        Fault.Full => "no room is left",
        Fault.NotEmpty => "the folder is not empty",
        Fault.NotSupported => "the file system has no such thing",
        Fault.TimedOut => "no answer came in time",
        _ => "it failed",
    };
}

/// <summary>A call did not do what it was asked.</summary>
public sealed class FileTroubleException(Trouble trouble, string what) : IOException(trouble.Said(what))
{
    /// <summary>Why.</summary>
    public Trouble Trouble { get; } = trouble;

    /// <summary>The kind of trouble.</summary>
    public Fault Fault => Trouble.Fault;
}
