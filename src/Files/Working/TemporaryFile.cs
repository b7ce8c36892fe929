namespace YardRelay.Files.Working;

/// <summary>
/// A file in the computer's folder for what is only passing. It has a name for no longer than it takes to make it: nobody else comes to
/// it, and nothing is left behind, however this program ends.
/// </summary>
internal sealed class TemporaryFile : Temporary
{
    private readonly FileStream _file;

    public TemporaryFile()
    {
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.ReadWrite, BufferSize = 0 };
        if (OperatingSystem.IsWindows()) options.Options = FileOptions.DeleteOnClose;
        else options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        _file = new(Path.Combine(Path.GetTempPath(), "yardhand-" + Path.GetRandomFileName()), options);
        if (!OperatingSystem.IsWindows()) File.Delete(_file.Name);
    }

    public override Stream Into => _file;

    public override int Read(long at, Span<byte> into) => RandomAccess.Read(_file.SafeFileHandle, into, at);

    public override void Dispose() => _file.Dispose();
}
