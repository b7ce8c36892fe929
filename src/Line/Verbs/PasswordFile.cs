using System.CommandLine;
using YardRelay.Core;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <summary>Where a password is read from that is to stand in no list of processes and in no environment.</summary>
internal static class PasswordFile
{
    private sealed record CannotBeRead(string File, string Why) : Problem("password.file", $"'{File}' cannot be read: {Why}");

    /// <summary>The option; several commands have it.</summary>
    public static Option<string?> Option(string name, string what) => new(name)
    {
        Description = $"File whose first line is {what}; '-' reads it from the input."
    };

    /// <summary>What the file says; where none is named, what the environment does; null: neither does.</summary>
    /// <param name="file">The file; null: none.</param>
    /// <param name="variable">Of the environment.</param>
    public static Result<string?> Read(string? file, string variable)
    {
        try
        {
            return file is null ? Surroundings.Here.Variable(variable) is { Length: > 0 } said ? said : null
                : file == "-" ? Surroundings.Here.ReadLine()
                : File.ReadLines(file).FirstOrDefault();
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return new CannotBeRead(file!, gone.Message);
        }
    }
}
