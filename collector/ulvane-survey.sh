#!/bin/sh
# Ulvane survey collector: measures this computer and prints a survey as JSON.
#
#   sh ulvane-survey.sh > survey.json
#   sh ulvane-survey.sh --folders /media/data/owner > survey.json   also measures the folders in there
#   sh ulvane-survey.sh --checksums /media/data/owner list.sha256   writes a checksum list of the files in there
#
# It reads only: /proc and /sys, and how full mounted file systems are. It writes nothing but the
# list that it is asked for, sends nothing, and needs no root; what root would add is said on standard
# error and in the survey. A list that was broken off goes on where it stopped when it is asked for again.
# What cannot be read is left out, never guessed. POSIX sh; runs in dash and busybox ash.
# With ULVANE_ROOT=dir it reads a recorded tree instead of this computer (for tests).
set -u
LC_ALL=C
export LC_ALL

VERSION=1.0.0
ROOT=${ULVANE_ROOT:-}
FOLDERS=
CHECKSUMS=
LIST=
case ${1:-} in
  --folders) FOLDERS=${2:?--folders needs a directory} ;;
  --checksums)
    CHECKSUMS=${2:?--checksums needs a directory, and the list to write}
    LIST=${3:?--checksums needs the list to write, after the directory}
    ;;
  --help | -h)
    sed -n '2,14p' "$0"
    exit 0
    ;;
  '') ;;
  *)
    echo "unknown option $1; try --help" >&2
    exit 2
    ;;
esac

# --- JSON, piece by piece -------------------------------------------------------------------

# A JSON string: control characters go, quotes and backslashes are escaped, ends are trimmed.
quoted() {
  printf '%s' "$1" | tr -d '\000-\037\177' | sed -e 's/\\/\\\\/g' -e 's/"/\\"/g' -e 's/^ *//' -e 's/ *$//' -e 's/^/"/' -e 's/$/"/'
}

# The text as it is when it is ASCII, else nothing: a broken encoding would break the whole file.
plain() {
  printf '%s' "$1" | tr -cd '\040-\176' | sed -e 's/^ *//' -e 's/ *$//'
}

# The first line of a file below the root, or nothing.
first() {
  if [ -r "$ROOT$1" ]; then
    line=
    IFS= read -r line <"$ROOT$1" 2>/dev/null || :
    plain "$line"
  fi
}

is_number() {
  case $1 in
    '' | *[!0-9]*) return 1 ;;
    *) return 0 ;;
  esac
}

# join "key" value: adds a member to $members when the value is there.
members=
begin() { members=; }
text() { [ -n "$2" ] && member "$1" "$(quoted "$2")"; return 0; }
number() { is_number "$2" && member "$1" "$(printf '%s' "$2" | sed -e 's/^0*\([0-9]\)/\1/')"; return 0; }
member() {
  [ -n "$2" ] || return 0
  members="$members${members:+,}\"$1\":$2"
}
object() { printf '{%s}' "$members"; }

ROOT_WOULD_ADD=
root_would_add() { ROOT_WOULD_ADD="$ROOT_WOULD_ADD${ROOT_WOULD_ADD:+,}$(quoted "$1")"; }

# --- The device ------------------------------------------------------------------------------

# What firmware says when nobody filled it in.
filled() {
  case $1 in
    '' | 'To be filled'* | 'To Be Filled'* | 'Default string' | 'System manufacturer' | 'System Product Name' | 'Not Specified' | 'None' | 'N/A' | '0' | '00000000') ;;
    *) printf '%s' "$1" ;;
  esac
}

device() {
  begin
  dmi=/sys/class/dmi/id
  text maker "$(filled "$(first $dmi/sys_vendor)")"
  text model "$(filled "$(first $dmi/product_name)")"
  serial=$(filled "$(first $dmi/product_serial)")
  text serial "$serial"
  # Chassis types of the SMBIOS specification, 7.4.1.
  case $(first $dmi/chassis_type) in
    8 | 9 | 10 | 11 | 14 | 30 | 31 | 32) text chassis laptop ;;
    3 | 4 | 5 | 6 | 7 | 13 | 15 | 16 | 24 | 35 | 36) text chassis desktop ;;
  esac
  object
}

processor() {
  begin
  info="$ROOT/proc/cpuinfo"
  if [ -r "$info" ]; then
    flags=$(sed -n -e 's/^\(flags\|Features\)[[:space:]]*:[[:space:]]*//p' "$info" | head -n 1)
    name=$(sed -n -e 's/^model name[[:space:]]*:[[:space:]]*//p' "$info" | head -n 1)
    text name "$(plain "$name" | cut -c 1-200)"
    # `lm` is long mode on x86. Elsewhere the running kernel tells, and only a 64-bit one is proof.
    case " $flags " in
      *' lm '*) number wordBits 64 ;;
      *' fpu '* | *' tsc '*) number wordBits 32 ;;
      *) [ -z "$ROOT" ] && case $(uname -m 2>/dev/null) in aarch64 | riscv64 | ppc64le | s390x) number wordBits 64 ;; esac ;;
    esac
    cores=$(sed -n -e 's/^cpu cores[[:space:]]*:[[:space:]]*//p' "$info" | head -n 1)
    sockets=$(sed -n -e 's/^physical id[[:space:]]*:[[:space:]]*//p' "$info" | sort -u | grep -c .)
    if is_number "$cores" && [ "$cores" -gt 0 ] && [ "$sockets" -gt 0 ]; then
      number cores $((cores * sockets))
    else
      threads=$(grep -c '^processor[[:space:]]*:' "$info")
      [ "$threads" -gt 0 ] && number cores "$threads"
    fi
    khz=$(first /sys/devices/system/cpu/cpu0/cpufreq/cpuinfo_max_freq)
    mhz=$(sed -n -e 's/^cpu MHz[[:space:]]*:[[:space:]]*\([0-9]*\).*/\1/p' "$info" | head -n 1)
    if is_number "$khz" && [ "$khz" -ge 1000 ]; then
      number clockMhz $((khz / 1000))
    else
      [ "${mhz:-0}" -gt 0 ] 2>/dev/null && number clockMhz "$mhz"
    fi
    if [ -n "$flags" ]; then
      list=
      count=0
      for flag in $flags; do
        [ "$count" -lt 400 ] || break
        list="$list${list:+,}$(quoted "$(plain "$flag" | cut -c 1-40)")"
        count=$((count + 1))
      done
      member flags "[$list]"
    fi
  fi
  object
}

memory() {
  kib=$(sed -n -e 's/^MemTotal:[[:space:]]*\([0-9]*\) kB.*/\1/p' "$ROOT/proc/meminfo" 2>/dev/null)
  is_number "$kib" && printf '%s' $((kib * 1024))
}

# --- Firmware --------------------------------------------------------------------------------

secure_boot_variable=/sys/firmware/efi/efivars/SecureBoot-8be4df61-93ca-11d2-aa0d-00e098032b8c

# PCI class 01, mass storage: 0106 with interface 01 is AHCI, 0104 RAID, 0101 IDE. Told only where all agree.
storage_mode() {
  for place in "$ROOT"/sys/bus/pci/devices/*; do
    case $(first "/sys/bus/pci/devices/${place##*/}/class") in
      0x010601) echo ahci ;;
      0x0104*) echo raid ;;
      0x0101*) echo ide ;;
    esac
  done | sort -u | awk '{ mode = $0 } END { if (NR == 1) print mode }'
}

firmware() {
  begin
  if [ -d "$ROOT/sys/firmware/efi" ]; then
    text mode uefi
    if [ -r "$ROOT$secure_boot_variable" ]; then
      # Four bytes of attributes, then the value (UEFI specification, 8.2).
      case $(od -An -tu1 "$ROOT$secure_boot_variable" 2>/dev/null | tr -s ' \n' ' ' | sed -e 's/^ //' -e 's/ $//' | cut -d ' ' -f 5) in
        1) text secureBoot on ;;
        0) text secureBoot off ;;
      esac
    fi
  elif [ -d "$ROOT/sys/class/dmi/id" ]; then
    # A PC's firmware tables without UEFI's: this start was a legacy one.
    text mode legacy
  fi
  tpm=$(first /sys/class/tpm/tpm0/tpm_version_major)
  case $tpm in
    1) text tpm 1.2 ;;
    2) text tpm 2.0 ;;
  esac
  text storageMode "$(storage_mode)"
  object
}

# --- Disks -----------------------------------------------------------------------------------

bus_of() {
  case $1 in
    nvme*) echo nvme ;;
    mmcblk*) echo mmc ;;
    vd* | xvd*) echo virtual ;;
    *)
      case $(readlink "$ROOT/sys/block/$1" 2>/dev/null) in
        */usb[0-9]*) echo usb ;;
        */ata[0-9]*) echo sata ;;
        */virtio[0-9]*) echo virtual ;;
        */end_device-*) echo sas ;;
      esac
      ;;
  esac
}

serial_of() {
  for place in serial device/serial; do
    value=$(first "/sys/block/$1/$place")
    if [ -n "$value" ]; then
      printf '%s' "$value"
      return
    fi
  done
  # Vital product data, page 0x80: four bytes of header, then the serial (SPC-4, 7.8.16).
  if [ -r "$ROOT/sys/block/$1/device/vpd_pg80" ]; then
    plain "$(tail -c +5 "$ROOT/sys/block/$1/device/vpd_pg80" 2>/dev/null | tr -cd '\040-\176')"
  fi
}

# The scheme, by the partitions' own identifiers as the kernel prints them: a GUID, or a disk
# signature with the partition's number.
scheme_of() {
  for part in "$ROOT/sys/block/$1/$1"*/uevent; do
    [ -r "$part" ] || continue
    id=$(sed -n -e 's/^PARTUUID=//p' "$part")
    case $id in
      ????????-????-????-????-????????????) echo gpt; return ;;
      ????????-??) echo mbr; return ;;
    esac
  done
}

# "used bytes" and "file system" of a mounted partition, from the kernel's list and df.
mount_of() {
  sed -n -e "s#^/dev/$1 \([^ ]*\) \([^ ]*\) .*#\1 \2#p" "$ROOT/proc/mounts" 2>/dev/null | head -n 1
}

used_of() {
  if [ -n "$ROOT" ]; then
    [ -r "$ROOT/df" ] && awk -v device="/dev/$1" '$1 == device { printf "%.0f", $3 * 1024; exit }' "$ROOT/df"
  else
    df -Pk "$2" 2>/dev/null | awk 'NR == 2 { printf "%.0f", $3 * 1024 }'
  fi
}

partitions() {
  all=
  for place in "$ROOT/sys/block/$1/$1"*; do
    [ -r "$place/partition" ] || continue
    part=${place##*/}
    begin
    number number "$(first "/sys/block/$1/$part/partition")"
    # The kernel counts in 512 bytes, whatever the disk's own sectors are.
    start=$(first "/sys/block/$1/$part/start")
    size=$(first "/sys/block/$1/$part/size")
    is_number "$start" && is_number "$size" && [ "$size" -gt 0 ] || continue
    number startLba $((start * 512 / $2))
    number sectorCount $((size * 512 / $2))
    text label "$(plain "$(sed -n -e 's/^PARTNAME=//p' "$place/uevent" 2>/dev/null)" | cut -c 1-72)"
    mount=$(mount_of "$part")
    if [ -n "$mount" ]; then
      at=$(plain "${mount% *}")
      text fileSystem "$(plain "${mount##* }" | cut -c 1-32)"
      text mountedAt "$at"
      number usedBytes "$(used_of "$part" "$at")"
    fi
    all="$all${all:+,}$(object)"
  done
  printf '[%s]' "$all"
}

disk() {
  sector=$(first "/sys/block/$1/queue/logical_block_size")
  size=$(first "/sys/block/$1/size")
  is_number "$sector" && is_number "$size" && [ "$size" -gt 0 ] && [ "$sector" -ge 512 ] || return 0
  parts=$(partitions "$1" "$sector")
  begin
  text name "$1"
  text model "$(first "/sys/block/$1/device/model" | cut -c 1-128)"
  text serial "$(serial_of "$1" | cut -c 1-128)"
  text bus "$(bus_of "$1")"
  case $(first "/sys/block/$1/queue/rotational") in 0) member rotational false ;; 1) member rotational true ;; esac
  case $(first "/sys/block/$1/removable") in 0) member removable false ;; 1) member removable true ;; esac
  number sectorBytes "$sector"
  number sectorCount $((size * 512 / sector))
  text scheme "$(scheme_of "$1")"
  member partitions "$parts"
  object
}

disks() {
  all=
  for place in "$ROOT"/sys/block/*; do
    name=${place##*/}
    case $name in
      '*' | loop* | ram* | zram* | dm-* | md* | sr* | fd* | nbd*) continue ;;
    esac
    one=$(disk "$name")
    [ -n "$one" ] && all="$all${all:+,}$one"
  done
  printf '[%s]' "$all"
}

# --- Power, network, folders -----------------------------------------------------------------

power() {
  begin
  charger=
  for place in "$ROOT"/sys/class/power_supply/*; do
    [ -d "$place" ] || continue
    here="/sys/class/power_supply/${place##*/}"
    case $(first "$here/type") in
      Battery)
        # A mouse or a pen has a battery too; its scope says so.
        [ "$(first "$here/scope")" = Device ] && continue
        number batteryPercent "$(first "$here/capacity")"
        ;;
      Mains | USB)
        case $(first "$here/online") in
          1) charger=connected ;;
          0) [ -n "$charger" ] || charger=not-connected ;;
        esac
        ;;
    esac
  done
  text charger "$charger"
  object
}

# PCI class 03: display controllers (PCI Code and ID Assignment Specification, 1.4). Numbers are what there is to read.
graphics_chips() {
  all=
  for place in "$ROOT"/sys/bus/pci/devices/*; do
    here="/sys/bus/pci/devices/${place##*/}"
    case $(first "$here/class") in 0x03*) ;; *) continue ;; esac
    vendor=$(first "$here/vendor")
    device=$(first "$here/device")
    begin
    text name "pci ${vendor#0x}:${device#0x}"
    driver=$(readlink "$place/driver" 2>/dev/null)
    text driver "$(plain "${driver##*/}")"
    all="$all${all:+,}$(object)"
  done
  [ -z "$all" ] || printf '[%s]' "$all"
}

# The first drive for discs; that there is none can be told only where other disks are seen.
optical_drive() {
  seen=
  for place in "$ROOT"/sys/block/*; do
    name=${place##*/}
    case $name in
      sr*)
        case $(readlink "$place" 2>/dev/null) in */usb[0-9]*) echo external ;; *) echo internal ;; esac
        return
        ;;
      '*') ;;
      *) seen=1 ;;
    esac
  done
  [ -z "$seen" ] || echo none
}

network() {
  all=
  for place in "$ROOT"/sys/class/net/*; do
    # Only what has a device behind it: no loopback, bridges or tunnels.
    [ -e "$place/device" ] || continue
    name=${place##*/}
    begin
    text name "$(plain "$name")"
    if [ -d "$place/wireless" ] || [ -d "$place/phy80211" ]; then text kind wireless; else text kind wired; fi
    driver=$(readlink "$place/device/driver" 2>/dev/null)
    text driver "$(plain "${driver##*/}")"
    all="$all${all:+,}$(object)"
  done
  printf '[%s]' "$all"
}

# Each folder in there, with its files' count, bytes and largest.
folders() {
  all=
  for place in "$FOLDERS"/*/; do
    [ -d "$place" ] || continue
    place=${place%/}
    totals=$(find "$place" -type f -exec ls -ln {} + 2>/dev/null | awk '$5 ~ /^[0-9]+$/ { bytes += $5; files += 1; if ($5 > most) most = $5 } END { printf "%.0f %d %.0f", bytes, files, most }')
    begin
    text name "$(plain "${place##*/}" | cut -c 1-100)"
    text path "$(plain "$place" | cut -c 1-1024)"
    number sizeBytes "${totals%% *}"
    rest=${totals#* }
    number fileCount "${rest% *}"
    number largestFileBytes "${rest#* }"
    all="$all${all:+,}$(object)"
  done
  printf '[%s]' "$all"
}

# --- A checksum list -------------------------------------------------------------------------

# Files are hashed in pieces of so many files or bytes, by as many workers as there are cores.
PIECE_FILES=200
PIECE_BYTES=67108864

hash_command() {
  for command in sha256sum 'shasum -a 256'; do
    command -v "${command%% *}" >/dev/null 2>&1 && { printf '%s' "$command"; return; }
  done
}

core_count() {
  cores=$(getconf _NPROCESSORS_ONLN 2>/dev/null || grep -c '^processor' /proc/cpuinfo 2>/dev/null)
  is_number "${cores:-}" && [ "$cores" -gt 0 ] || cores=1
  printf '%s' "$cores"
}

# Names with a line break or a backslash would tear a list of lines apart: they are hashed at the end, by themselves.
LINE_BREAK='
'
plain_files() { find . -type f ! -path "*$LINE_BREAK*" ! -path '*\\*' "$@"; }
odd_files() { find . -type f \( -path "*$LINE_BREAK*" -o -path '*\\*' \) "$@"; }

# Lines that are whole: a hash of 64 figures, two signs, a name. What a break cut off in the middle is not.
whole_lines() { grep -E '^\\?[0-9a-f]{64}[ *][ *]?.' "$@" 2>/dev/null; }

# worker: takes one piece after the other until none is left. A piece is taken by making a directory: only one can.
worker() {
  for piece in "$WORK"/piece.*; do
    mkdir "$WORK/taken.${piece##*.}" 2>/dev/null || continue
    # shellcheck disable=SC2086
    tr '\n' '\000' <"$piece" | xargs -0 $HASH >"$WORK/half.${piece##*.}" 2>>"$WORK/trouble"
    mv "$WORK/half.${piece##*.}" "$WORK/done.${piece##*.}"
  done
}

told() { awk -v done="$1" -v all="$2" 'BEGIN { printf "%.1f of %.1f GB, %d %%\n", done / 1e9, all / 1e9, (all > 0 ? 100 * done / all : 100) }' >&2; }

# The bytes of all pieces that are done.
done_bytes() {
  for piece in "$WORK"/done.*; do
    [ -e "$piece" ] && cat "$WORK/bytes.${piece##*.}"
  done | awk '{ sum += $1 } END { printf "%.0f", sum }'
}

# What is done goes into the list, in one move; what came to be in the list stays, even after a break.
gather() {
  for piece in "$WORK"/done.* "$WORK"/odd; do
    [ -e "$piece" ] && cat "$piece"
  done >"$WORK/new"
  cat "$WORK/known" "$WORK/new" >"$WORK/list" && mv "$WORK/list" "$LIST"
}

stop_workers() {
  trap - INT TERM
  # The workers, and whatever they have started.
  for pid in $WORKERS ${TELLER:-}; do
    kill $(ps -o pid= --ppid "$pid" 2>/dev/null) "$pid" 2>/dev/null
  done
  wait
  gather
  rm -f "$WORK"/piece.* "$WORK"/half.* "$WORK"/done.* "$WORK"/bytes.*
  rmdir "$WORK"/taken.* 2>/dev/null
  echo "Broken off. $(wc -l <"$LIST") files are in $LIST; the same command goes on from here." >&2
  exit 130
}

checksums() {
  HASH=$(hash_command)
  [ -n "$HASH" ] || { echo 'This system has neither sha256sum nor shasum: use a live rescue stick.' >&2; exit 1; }
  [ -d "$CHECKSUMS" ] || { echo "There is no directory $CHECKSUMS." >&2; exit 1; }
  case $LIST in /*) ;; *) LIST=$(pwd)/$LIST ;; esac
  WORK=$LIST.work
  if [ -e "$LIST" ] && [ ! -d "$WORK" ]; then
    echo "$LIST is there already, and whole: name another one, or remove it." >&2
    exit 1
  fi
  mkdir -p "$WORK" || exit 1
  cd "$CHECKSUMS" || exit 1
  # The list itself may lie in there: it is no file of the owner's.
  own=$(pwd)
  case $LIST in "$own"/*) own=./${LIST#"$own"/} ;; *) own=/ ;; esac

  # What an earlier run has done counts, but for files that were changed since it began.
  # A line that was torn ends first.
  echo >>"$LIST"
  for piece in "$WORK"/done.*; do
    [ -e "$piece" ] && cat "$piece" >>"$LIST"
  done
  rm -f "$WORK"/piece.* "$WORK"/half.* "$WORK"/done.* "$WORK"/bytes.* "$WORK"/odd
  rmdir "$WORK"/taken.* 2>/dev/null
  : >"$WORK/changed"
  [ -e "$WORK/begun" ] && plain_files -newer "$WORK/begun" >"$WORK/changed"
  [ -e "$WORK/begun" ] || : >"$WORK/begun"

  whole_lines "$LIST" | grep -v '^\\' |
    awk -v changed="$WORK/changed" '
      BEGIN { while ((getline name < changed) > 0) away[name] = 1 }
      { name = substr($0, 67) } !(name in away) && !(name in seen) { seen[name] = 1; print }
    ' >"$WORK/known"

  # Size and name of every file that is left, cut into pieces.
  plain_files -exec ls -dn {} + 2>>"$WORK/trouble" |
    awk -v known="$WORK/known" -v work="$WORK" -v own="$own" -v most="$PIECE_FILES" -v large="$PIECE_BYTES" '
      BEGIN { while ((getline line < known) > 0) seen[substr(line, 67)] = 1 }
      {
        size = $5
        name = $0
        for (field = 0; field < 8; field++) sub(/^ *[^ ]+/, "", name)
        name = substr(name, 2)
        all += size
        if (name == own || index(name, own ".work/") == 1) { all -= size; next }
        if (name in seen) { had += size; next }
        if (files == 0 || files >= most || bytes + size > large) {
          if (files > 0) { close(piece); print bytes > (work "/bytes." number); close(work "/bytes." number) }
          number = sprintf("%07d", ++pieces)
          piece = work "/piece." number
          files = 0
          bytes = 0
        }
        print name > piece
        files++
        bytes += size
      }
      END {
        if (files > 0) print bytes > (work "/bytes." number)
        printf "%.0f %.0f\n", all, had > (work "/sums")
      }
    '
  read -r all had <"$WORK/sums"
  WORKERS=
  trap stop_workers INT TERM
  count=$(core_count)
  while [ "$count" -gt 0 ]; do
    worker &
    WORKERS="$WORKERS $!"
    count=$((count - 1))
  done
  (
    while sleep 5 >/dev/null 2>&1; do
      told "$(awk -v a="$had" -v b="$(done_bytes)" 'BEGIN { printf "%.0f", a + b }')" "$all"
    done
  ) &
  TELLER=$!
  # shellcheck disable=SC2086
  wait $WORKERS
  # A worker that was killed leaves its piece behind: it is hashed now.
  for piece in "$WORK"/taken.*; do
    [ -e "$WORK/done.${piece##*.}" ] && continue
    # What it had begun may still be written to, by a command that outlived it.
    rm -f "$WORK/half.${piece##*.}"
    rmdir "$WORK/taken.${piece##*.}" 2>/dev/null
  done
  worker
  kill "$TELLER" 2>/dev/null
  # shellcheck disable=SC2086
  odd_files -exec $HASH {} + >"$WORK/odd" 2>>"$WORK/trouble"
  trap - INT TERM
  gather
  count=$(wc -l <"$LIST")
  told "$all" "$all"
  echo "$((count)) files in $LIST." >&2
  if [ -s "$WORK/trouble" ]; then
    echo 'These could not be read, and are not in it:' >&2
    cat "$WORK/trouble" >&2
    rm -rf "$WORK"
    exit 3
  fi
  rm -rf "$WORK"
}

if [ -n "$CHECKSUMS" ]; then
  checksums
  exit 0
fi

# --- The survey ------------------------------------------------------------------------------

as_root=false
[ "$(id -u 2>/dev/null)" = 0 ] && as_root=true
[ -z "$ROOT" ] || as_root=false

device_json=$(device)
processor_json=$(processor)
memory_json=$(memory)
firmware_json=$(firmware)
disks_json=$(disks)
power_json=$(power)
network_json=$(network)
chips_json=$(graphics_chips)
if [ "$as_root" = false ]; then
  [ -e "$ROOT/sys/class/dmi/id/product_serial" ] && [ ! -r "$ROOT/sys/class/dmi/id/product_serial" ] && root_would_add 'serial of the device'
  [ -e "$ROOT$secure_boot_variable" ] && [ ! -r "$ROOT$secure_boot_variable" ] && root_would_add 'Secure Boot'
fi

begin
text format ulvane-survey
number version 1
text takenAt "$(date -u +%Y-%m-%dT%H:%M:%SZ)"
member collector "{\"version\":\"$VERSION\",\"asRoot\":$as_root,\"rootWouldAdd\":[$ROOT_WOULD_ADD]}"
[ "$device_json" = '{}' ] || member device "$device_json"
[ "$processor_json" = '{}' ] || member processor "$processor_json"
member memoryBytes "$memory_json"
[ "$firmware_json" = '{}' ] || member firmware "$firmware_json"
[ -z "$chips_json" ] || member display "{\"chips\":$chips_json}"
[ -d "$ROOT/sys/block" ] && member disks "$disks_json"
text opticalDrive "$(optical_drive)"
[ "$power_json" = '{}' ] || member power "$power_json"
[ -d "$ROOT/sys/class/net" ] && member network "$network_json"
[ -n "$FOLDERS" ] && member folders "$(folders)"
object
echo

[ -z "$ROOT_WOULD_ADD" ] || echo "As root it would also read: $(printf '%s' "$ROOT_WOULD_ADD" | tr -d '"' | sed -e 's/,/, /g')." >&2
