namespace YardRelay.Files.Working;

/// <summary>The computer's folder for what is only passing does not take it.</summary>
public sealed class TemporaryUnusableException(string folder, Exception because) : IOException(
    $"The folder for temporary files, {folder}, does not take what is written to it ({because.Message.Split(" : ")[0].TrimEnd('.')}). "
        + "Make room there, or name another one by TMPDIR, then run this again: what was done is safe.",
    because);

/// <summary>
/// A file in the computer's folder for what is only passing. It has a name for no longer than it takes to make it: nobody else comes to
/// it, and nothing is left behind, however this program ends.
/// </summary>
internal sealed class TemporaryFile : Temporary
{
    private readonly FileStream _file;

    /// <exception cref="TemporaryUnusableException">None can be made.</exception>
    public TemporaryFile()
    {
        var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.ReadWrite, BufferSize = 0 };
        if (OperatingSystem.IsWindows()) options.Options = FileOptions.DeleteOnClose;
        else options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        var folder = Path.GetTempPath();
        try
        {
            _file = new(Path.Combine(folder, "yardhand-" + Path.GetRandomFileName()), options);
        }
        catch (Exception refused) when (refused is IOException or UnauthorizedAccessException)
        {
            throw new TemporaryUnusableException(folder, refused);
        }
        if (!OperatingSystem.IsWindows()) File.Delete(_file.Name);
        Into = new Writing(_file, folder);
    }

    public override Stream Into { get; }

    public override int Read(long at, Span<byte> into) => RandomAccess.Read(_file.SafeFileHandle, into, at);

    public override void Dispose() => _file.Dispose();

    private sealed class Writing(FileStream file, string folder) : Stream
    {
        public override bool CanRead => false;

        public override bool CanSeek => false;

        public override bool CanWrite => true;

        public override long Length => file.Length;

        public override long Position { get => file.Position; set => throw new NotSupportedException(); }

        public override void Write(ReadOnlySpan<byte> buffer)
        {
            try
            {
                file.Write(buffer);
            }
            catch (IOException full)
            {
                throw new TemporaryUnusableException(folder, full);
            }
        }

        public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

        public override void Flush()
        {
        }

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();
    }
}
