module vetta

go 1.26
