// Folders that this program made for itself. Every removal of a folder goes through here, so that nothing of
// somebody else's is ever removed, whatever stands where ours is expected.
//
// Such a folder is private, belongs to this user and bears a mark: a file that names the very folder it lies
// in, so that one copied or unpacked elsewhere is none. Links are never followed.
//
//   const auto folder = make_own_folder("/var/tmp", "true-anvil-scratch-");
//   …
//   remove_own_folder(*folder);
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/refusal.h"

namespace anvil {

// What the mark is called inside a folder of ours.
inline constexpr const char* kOwnFolderMark = ".true-anvil-folder";

// A new one in `place`, called `prefix` and six letters nobody can guess. Refuses (kCannotWrite).
Result<std::filesystem::path> make_own_folder(const std::filesystem::path& place, const std::string& prefix);

// Not a link, of this user, with the mark that belongs to it.
bool is_own_folder(const std::filesystem::path& folder);

// A folder, not a link, of this user: what may be looked into, not what may be removed.
bool is_users_folder(const std::filesystem::path& folder);

// Makes one ours that the user has said is: only where it holds nothing but plain files and folders of this
// user, called as in `known` at the top. False, and nothing is done, where it does not.
bool adopt_folder(const std::filesystem::path& folder, const std::vector<std::string>& known);

// Removes it with all it holds, never beyond the file system it lies on. False, and nothing is done, unless
// is_own_folder(); false too where something in it could not be removed.
bool remove_own_folder(const std::filesystem::path& folder);

}  // namespace anvil
