# What of the machine is free right now, for tests that go by a clock: beside other work fewer of them run at a time.

# at_a_time MOST: how many of MOST, which suit a machine with nothing else to do, suit it as it is; at least one. It looks for a second.
at_a_time() {
  [ -r /proc/stat ] || { echo "$1"; return; }
  was=$(head -n 1 /proc/stat)
  sleep 1
  { echo "$was"; head -n 1 /proc/stat; } | awk -v most="$1" '
    { all = 0; for (i = 2; i <= 9; i++) all += $i; idle = $5 + $6 }
    NR == 1 { all0 = all; idle0 = idle }
    END {
      free = all > all0 ? (idle - idle0) / (all - all0) : 1
      n = free > 0.8 ? most : int(most * free + 0.5)
      print (n > 1 ? n : 1)
    }'
}
