# frozen_string_literal: true

require "active_support"
require "active_support/message_encryptor"
require "securerandom"

# Keys of others' interfaces, which a copy of the database alone must not give away: encrypted by a key file
# that lies beside it.
module Secret
  MARK = "sealed:"

  class << self
    # @param text [String]
    # @return [String] as it is stored; what is sealed stays
    def seal(text) = (text.empty? || text.start_with?(MARK)) ? text : MARK + encryptor.encrypt_and_sign(text)

    # @param text [String] as it is stored
    # @return [String]
    # @raise [Orvant::Error] where the key file is another than it was sealed with
    def unseal(text)
      text.start_with?(MARK) ? encryptor.decrypt_and_verify(text.delete_prefix(MARK)) : text
    rescue ActiveSupport::MessageEncryptor::InvalidMessage
      raise Orvant::Error,
        "The key that is kept cannot be read: #{file} is not the file it was kept with. Enter the key again."
    end

    # @return [String] what digests of people are salted with
    def salt = OpenSSL::Digest::SHA256.hexdigest("salt #{key}")

    private

    def encryptor
      ActiveSupport::MessageEncryptor.new([key].pack("H*"), cipher: "aes-256-gcm", serializer: JSON)
    end

    def key
      File.open(file, File::WRONLY | File::CREAT | File::EXCL, 0o600) { |io| io.write(SecureRandom.hex(32)) }
      File.read(file)
    rescue Errno::EEXIST
      File.read(file)
    end

    def file = Settings.var("secret.key")
  end
end
